import { TypeNames } from './type-names.js';
import type { Action, Asset, Binding, Effect, EventDecl, Placement, Project, Property } from './types.js';

/** One effect of an asset, with the action that performs it. */
export interface EffectRef {
  action: number;
  effect: Effect;
}

/** An asset with its lists always present and its names looked up by number. */
export interface AssetIndex {
  readonly at: number;
  readonly decl: Asset;
  readonly events: readonly EventDecl[];
  readonly actions: readonly Action[];
  readonly properties: readonly Property[];
  readonly placements: readonly Placement[];
  readonly bindings: readonly Binding[];
  readonly effects: readonly EffectRef[];
  readonly eventAt: ReadonlyMap<string, number>;
  readonly actionAt: ReadonlyMap<string, number>;
  readonly propertyAt: ReadonlyMap<string, number>;
  readonly placementAt: ReadonlyMap<string, number>;
  readonly bindingAt: ReadonlyMap<string, number>;
  /** For each placement the number of its asset; -1 where that is not there or is a scene. */
  readonly placed: Int32Array;
}

/** A project with its names looked up by number. Numbers are positions in the document's lists. */
export interface ProjectIndex {
  readonly project: Project;
  readonly assets: readonly AssetIndex[];
  readonly assetAt: ReadonlyMap<string, number>;
  readonly channelAt: ReadonlyMap<string, number>;
  readonly typeNames: TypeNames;
}

function positions<T>(items: readonly T[], name: (item: T) => string): Map<string, number> {
  const map = new Map<string, number>();
  items.forEach((item, i) => map.set(name(item), i));
  return map;
}

/** Looks up every name of a project once. Linear in the document. */
export function indexProject(project: Project): ProjectIndex {
  const assetAt = positions(project.assets, (a) => a.id);
  const assets = project.assets.map((decl, at) => indexAsset(decl, at, project, assetAt));
  const channelAt = positions(project.channels ?? [], (c) => c.name);
  return { project, assets, assetAt, channelAt, typeNames: new TypeNames(project) };
}

/**
 * The index of a project after an edit: what is the very same as before is taken over. Falls back to a new index where
 * assets came, went or changed their place or kind. Cost: the assets that changed.
 */
export function reindexProject(old: ProjectIndex, project: Project): ProjectIndex {
  const same =
    project.assets.length === old.assets.length &&
    project.channels === old.project.channels &&
    project.assets.every((a, i) => a.id === old.assets[i].decl.id && a.kind === old.assets[i].decl.kind);
  if (!same) return indexProject(project);
  const assetAt = old.assetAt as Map<string, number>;
  const assets = old.assets.map((a, at) =>
    a.decl === project.assets[at] ? a : indexAsset(project.assets[at], at, project, assetAt, a),
  );
  const { enums, tables } = old.project;
  const isSame = project.enums === enums && project.tables === tables;
  const typeNames = isSame ? old.typeNames : new TypeNames(project);
  return { project, assets, assetAt, channelAt: old.channelAt, typeNames };
}

type OwnList = 'events' | 'actions' | 'properties' | 'placements' | 'bindings';
/** Names are looked up again only in lists that are not those of `old`. */
function indexAsset(
  decl: Asset,
  at: number,
  project: Project,
  assetAt: Map<string, number>,
  old?: AssetIndex,
): AssetIndex {
  const { events = [], actions = [], properties = [], placements = [], bindings = [] } = decl;
  const isSame = (list: OwnList): boolean => old !== undefined && old.decl[list] === decl[list];
  const placed = (): Int32Array =>
    Int32Array.from(placements, (p) => {
      const to = assetAt.get(p.asset);
      return to === undefined || project.assets[to].kind === 'scene' ? -1 : to;
    });
  return {
    at,
    decl,
    events,
    actions,
    properties,
    placements,
    bindings,
    effects: isSame('actions')
      ? old!.effects
      : actions.flatMap((a, action) => (a.effects ?? []).map((effect) => ({ action, effect }))),
    eventAt: isSame('events') ? old!.eventAt : positions(events, (e) => e.name),
    actionAt: isSame('actions') ? old!.actionAt : positions(actions, (a) => a.name),
    propertyAt: isSame('properties') ? old!.propertyAt : positions(properties, (p) => p.name),
    placementAt: isSame('placements') ? old!.placementAt : positions(placements, (p) => p.id),
    bindingAt: isSame('bindings') ? old!.bindingAt : positions(bindings, (b) => b.id),
    placed: isSame('placements') ? old!.placed : placed(),
  };
}
