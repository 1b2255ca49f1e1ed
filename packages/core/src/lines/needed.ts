import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { parsePath } from '../project/path.js';
import type { Binding, Effect, Field, Placement, Type } from '../project/types.js';

/** What assets and things need to mean the same elsewhere. */
export interface Needed {
  /** Assets, those that were asked about included. */
  assets: ReadonlySet<string>;
  /** `channels tension`, `enums Side`, `tables texts`, `peers host`. */
  names: ReadonlySet<string>;
  /** Scenes that bindings name and that are not among them. */
  elsewhere: string[];
}
/** Things of an asset. */
export interface Stage {
  owner: AssetIndex;
  placements: readonly Placement[];
  bindings: readonly Binding[];
}

/** Everything that is placed, spawned, chosen or named by what is asked about, and by that in turn. Linear in it. */
export function neededBy(index: ProjectIndex, ids: readonly string[], stages: readonly Stage[]): Needed {
  const assets = new Set<string>();
  const names = new Set<string>();
  const scenes = new Set<string>();
  const open: string[] = [];
  const want = (id: string): void => {
    if (assets.has(id) || !index.assetAt.has(id)) return;
    assets.add(id);
    open.push(id);
  };
  const type = (t: Type): void => {
    if (t.startsWith('enum:')) names.add(`enums ${t.slice(5)}`);
    else if (t.startsWith('key:')) names.add(`tables ${t.slice(4)}`);
  };
  const fields = (list: readonly Field[] = []): void => list.forEach((f) => type(f.type));
  const effect = (e: Effect): void => {
    if ('spawn' in e) want(e.spawn);
  };
  const stage = (placements: readonly Placement[], bindings: readonly Binding[]): void => {
    for (const p of placements) {
      want(p.asset);
      for (const peer of [p.authority, p.operator]) if (peer !== undefined) names.add(`peers ${peer}`);
    }
    for (const { from, to } of bindings) {
      for (const end of [from, to]) {
        if ('channel' in end) names.add(`channels ${end.channel}`);
        else if ('every' in end) want(end.every);
        else {
          const { scene } = parsePath(end.at);
          if (scene !== null) scenes.add(scene);
        }
      }
    }
  };
  ids.forEach(want);
  for (const { placements, bindings } of stages) stage(placements, bindings);
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    const { events, actions, properties, placements, bindings } = index.assets[index.assetAt.get(id)!];
    properties.forEach((p) => type(p.type));
    for (const { payload, cause } of events) {
      fields(payload);
      if ('activators' in cause) cause.activators?.filter((a) => !a.startsWith('#')).forEach(want);
    }
    for (const { params, effects = [] } of actions) {
      fields(params);
      effects.forEach(effect);
    }
    stage(placements, bindings);
  }
  for (const { name, payload } of index.project.channels ?? [])
    if (names.has(`channels ${name}`)) fields(payload);
  return { assets, names, elsewhere: [...scenes].filter((s) => !assets.has(s)) };
}
