import type { BindingRef, Finding, Subject } from '../audit/finding.js';
import { effectName } from '../project/effect-name.js';
import { PROJECT_FILE } from '../project/folder.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { placesIn, type Region } from '../project/json-places.js';
import { toPointer } from '../project/problem.js';

/** Where something is written: a file of the project, and where in it. */
export interface Located {
  /** Empty for a document, which is one file; else as `toFolder` names it. */
  file: string;
  region: Region;
}
/** The texts of a project: of its document, or of the files of its folder. */
export type ProjectTexts =
  | { document: string }
  | {
      /** The files of the assets, in their order. */
      assets: readonly string[];
      file: (path: string) => string | null;
    };

/** Where findings and bindings are written. */
export interface Places {
  of(subject: Subject): Located | null;
  ofBinding(ref: BindingRef): Located | null;
}
/** A place in the document: in an asset, or in what is outside of all assets. */
interface Spot {
  asset: number;
  /** Segments below the asset, or below the document. */
  path: (string | number)[];
}

/**
 * Looks up where what findings speak of is written, the bindings of the ways that prove them, and bindings besides. What is not written down itself
 * (a default, what a spawn makes) is where its owner is. Cost: one pass over each text in which something is looked for.
 */
export function locate(
  index: ProjectIndex,
  findings: readonly Finding[],
  texts: ProjectTexts,
  bindings: readonly BindingRef[] = [],
): Places {
  const wanted = new Map<string, Set<string>>();
  const want = (spot: Spot | null): void => {
    if (!spot) return;
    const { file, pointers } = placeOf(spot, texts);
    const own = wanted.get(file) ?? new Set();
    wanted.set(file, own);
    for (const pointer of pointers) own.add(pointer);
  };
  for (const f of findings) {
    want(spotOf(index, f.subject));
    for (const ref of bindingsOf(f)) want(bindingSpot(index, ref));
  }
  for (const ref of bindings) want(bindingSpot(index, ref));
  const found = new Map<string, Map<string, Region>>();
  for (const [file, pointers] of wanted) {
    const text = 'document' in texts ? texts.document : texts.file(file);
    if (text !== null) found.set(file, placesIn(text, pointers));
  }
  const located = (spot: Spot | null): Located | null => {
    if (!spot) return null;
    const { file, pointers } = placeOf(spot, texts);
    for (const pointer of pointers) {
      const region = found.get(file)?.get(pointer);
      if (region) return { file, region };
    }
    return null;
  };
  return {
    of: (subject) => located(spotOf(index, subject)),
    ofBinding: (ref) => located(bindingSpot(index, ref)),
  };
}

/** The bindings on the way that proves a finding. */
export function bindingsOf({ evidence }: Finding): BindingRef[] {
  if (evidence.kind === 'bindings') return evidence.bindings;
  if (evidence.kind !== 'path') return [];
  return evidence.steps.flatMap(({ via }) => (via?.binding ? [via.binding] : []));
}

/** The file of a spot, and pointers to it and to all that it lies in, the nearest first. */
function placeOf({ asset, path }: Spot, texts: ProjectTexts): { file: string; pointers: string[] } {
  const inDocument = 'document' in texts;
  const file = inDocument ? '' : asset < 0 ? PROJECT_FILE : texts.assets[asset];
  const head = inDocument && asset >= 0 ? ['assets', asset] : [];
  const pointers = Array.from({ length: path.length + 1 }, (_, i) =>
    toPointer([...head, ...path.slice(0, path.length - i)]),
  );
  return { file, pointers };
}

function bindingSpot({ assets, assetAt }: ProjectIndex, { asset, binding }: BindingRef): Spot | null {
  const owner = assets[assetAt.get(asset) ?? -1] as AssetIndex | undefined;
  if (!owner) return null;
  const at = owner.bindingAt.get(binding);
  return { asset: owner.at, path: at === undefined ? [] : ['bindings', at] };
}

function spotOf(index: ProjectIndex, subject: Subject): Spot | null {
  const { project, assetAt, channelAt } = index;
  const whole = (...path: (string | number)[]): Spot => ({ asset: -1, path });
  if ('bindings' in subject && subject.bindings.length > 0) return bindingSpot(index, subject.bindings[0]);
  // A cycle of effects alone.
  if ('effects' in subject) return spotOf(index, subject.effects[0]);
  if ('assets' in subject) return { asset: assetAt.get(subject.assets[0]) ?? -1, path: [] };
  if ('channel' in subject) {
    const at = channelAt.get(subject.channel);
    return at === undefined ? whole('channels') : whole('channels', at);
  }
  if ('waiver' in subject) {
    const at = project.waivers?.findIndex((w) => w.fingerprint === subject.waiver) ?? -1;
    return at < 0 ? whole('waivers') : whole('waivers', at);
  }
  if ('loadSet' in subject) {
    const at = project.loadSets?.findIndex((s) => s.name === subject.loadSet) ?? -1;
    return at < 0 ? whole('loadSets') : whole('loadSets', at);
  }
  if (!('asset' in subject)) return whole();
  const asset = index.assets[assetAt.get(subject.asset) ?? -1] as AssetIndex | undefined;
  return asset ? { asset: asset.at, path: pathIn(asset, subject) } : whole();
}

/** Where in its asset a subject stands. */
function pathIn(asset: AssetIndex, subject: Extract<Subject, { asset: string }>): (string | number)[] {
  const item = (list: string, at: number | undefined): (string | number)[] =>
    at === undefined ? [] : [list, at];
  if ('binding' in subject) {
    const binding = item('bindings', asset.bindingAt.get(subject.binding));
    return 'param' in subject ? [...binding, 'args', subject.param] : binding;
  }
  if ('placement' in subject && subject.placement !== undefined) {
    const placement = item('placements', asset.placementAt.get(subject.placement));
    return 'property' in subject ? [...placement, 'properties', subject.property] : placement;
  }
  if ('event' in subject) return item('events', asset.eventAt.get(subject.event));
  if ('action' in subject) {
    const action = item('actions', asset.actionAt.get(subject.action));
    if (!('effect' in subject) || action.length === 0) return action;
    const { effects = [] } = asset.actions[action[1] as number];
    const at = effects.findIndex((e) => effectName(e) === subject.effect);
    return at < 0 ? action : [...action, 'effects', at];
  }
  return 'property' in subject ? item('properties', asset.propertyAt.get(subject.property)) : [];
}
