import type { Change } from '../edit/change.js';
import { carriedOver, freePlacementId, metres } from '../edit/placement-edits.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { parsePath } from '../project/path.js';
import type { Binding, Placement, Vec2 } from '../project/types.js';
import { sameness, withFreeId } from './paste.js';
import { parseWireLine, type LineBinding } from './parse.js';
import { isPlacementLine, parsePlacement, printPlacement } from './placement.js';
import { printWireLine } from './print.js';

/** Things of an owner and the bindings that run between them alone, as lines of text: what copying puts into the clipboard. */
export function printStage(owner: AssetIndex, ids: readonly string[]): string {
  const { placements, bindings } = withinChosen(owner, ids);
  return [...placements.map(printPlacement), ...bindings.map(printWireLine)].join('\n');
}
/** The things of those ids, and the bindings that run between them alone. */
export function withinChosen(
  owner: AssetIndex,
  ids: readonly string[],
): { placements: Placement[]; bindings: Binding[] } {
  const chosen = new Set(ids);
  const isWithin = (path: string): boolean => {
    const { scene, segments } = parsePath(path);
    return scene === null && segments.length > 0 && chosen.has(segments[0]);
  };
  return {
    placements: owner.placements.filter((p) => chosen.has(p.id)),
    bindings: owner.bindings.filter(
      ({ from, to }) => 'at' in from && isWithin(from.at) && (!('at' in to) || isWithin(to.at)),
    ),
  };
}

/** What lines would put into an owner. */
export interface StageLines {
  changes: Change[];
  /** What is placed, by its id there. */
  placed: string[];
  /** Bindings that are added, by their id there. */
  wired: string[];
  /** Lines of which nothing comes, and why. */
  left: { number: number; text: string; why: string }[];
}
/** How far things that would stand upon others are moved aside, again and again. Metres. */
const ASIDE = 2;
const TRIES = 100;

/**
 * Reads lines that place things and wire them. A name that is taken becomes another one, in the bindings among the lines
 * too; things that would stand exactly upon others are moved aside together. Empty lines and `//` are passed over. Cost:
 * the lines, and the owner's placements and bindings.
 */
export function readStage(index: ProjectIndex, owner: AssetIndex, text: string): StageLines {
  const left: StageLines['left'] = [];
  const placements: Placement[] = [];
  const lines: { number: number; text: string; binding: LineBinding }[] = [];
  const copies = new Map<string, string>();
  const taken = new Set<string>();
  text.split(/\r?\n/).forEach((line, i) => {
    if (/^\s*(\/\/.*)?$/.test(line)) return;
    const put = { number: i + 1, text: line };
    if (!isPlacementLine(line)) {
      const read = parseWireLine(line);
      if ('fault' in read) left.push({ ...put, why: read.fault.message });
      else lines.push({ ...put, binding: read.binding });
      return;
    }
    const read = parsePlacement(line);
    const why = 'fault' in read ? read.fault.message : unplaceable(index, owner, read.value, copies);
    if ('fault' in read || why !== null) return left.push({ ...put, why: why! });
    const { id } = read.value;
    const own = owner.placementAt.has(id) || taken.has(id) ? freePlacementId(owner, id, taken) : id;
    taken.add(own);
    copies.set(id, own);
    placements.push({ ...read.value, id: own });
  });
  const by = asideOf(owner, placements);
  const bindings = boundIn(owner, lines, copies, left);
  const asset = owner.decl.id;
  return {
    changes: [
      ...placements.map((p, i): Change => ({
        op: 'insert',
        list: 'placements',
        asset,
        index: owner.placements.length + i,
        item: by === 0 || !p.at ? p : { ...p, at: [metres(p.at[0] + by), metres(p.at[1] + by)] },
      })),
      ...bindings.map((item, i): Change => ({
        op: 'insert',
        list: 'bindings',
        asset,
        index: owner.bindings.length + i,
        item,
      })),
    ],
    placed: placements.map((p) => p.id),
    wired: bindings.map((b) => b.id),
    left: left.sort((a, b) => a.number - b.number),
  };
}

/** Why something cannot be placed there; null if it can. */
function unplaceable(
  { assets, assetAt }: ProjectIndex,
  owner: AssetIndex,
  { id, asset }: Placement,
  copies: ReadonlyMap<string, string>,
): string | null {
  const placed = assets[assetAt.get(asset) ?? -1];
  if (!placed) return `there is no prefab or widget ${asset} in this project`;
  if (placed.decl.kind === 'scene') return `${asset} is a scene, which cannot be placed`;
  if (placed === owner) return `${asset} cannot be placed in itself`;
  if (owner.decl.kind === 'widget' && placed.decl.kind !== 'widget')
    return `${owner.decl.id} is a widget, and holds widgets alone`;
  return copies.has(id) ? `${id} is placed by an earlier line` : null;
}

function boundIn(
  owner: AssetIndex,
  lines: readonly { number: number; text: string; binding: LineBinding }[],
  copies: ReadonlyMap<string, string>,
  left: StageLines['left'],
): Binding[] {
  const there = new Map(owner.bindings.map((b) => [sameness(b), b.id]));
  const taken = new Set<string>();
  const bindings: Binding[] = [];
  for (const { number, text, binding } of lines) {
    const carried = carriedOver(owner, binding, copies);
    const twin = there.get(sameness(carried));
    if (twin !== undefined) {
      left.push({ number, text, why: `${twin} is the same` });
      continue;
    }
    const own = withFreeId(owner, carried, taken);
    there.set(sameness(own), own.id);
    bindings.push(own);
  }
  return bindings;
}

/** How far a group is moved so that none of it stands exactly upon what is there. */
function asideOf(owner: AssetIndex, group: readonly Placement[]): number {
  const cell = ([x, y]: Vec2, by: number): string => `${metres(x + by)},${metres(y + by)}`;
  const there = new Set(owner.placements.flatMap((p) => (p.at ? [cell(p.at, 0)] : [])));
  for (let n = 0; n < TRIES; n++) {
    if (!group.some((p) => p.at && there.has(cell(p.at, n * ASIDE)))) return n * ASIDE;
  }
  return TRIES * ASIDE;
}
