import type { Value } from './format.js';
import { type Bound, type Instance, instanceIn, placedIn, type Scene } from './instance.js';
import { isLiteral, sameValue } from './value.js';

/** What a key comes to: a value, none, or `missing` where it is read from a property that is not there. */
export type KeyRead = { key: Value | undefined } | 'missing';

export function readKey(key: Value | { property: string } | undefined, reader: Instance): KeyRead {
  if (key === undefined) return { key: undefined };
  if (isLiteral(key)) return { key };
  const value = reader.initial(key.property);
  return value === undefined ? 'missing' : { key: value };
}

/** Whom bindings reach as the world stands. */
export class Selector {
  constructor(
    private readonly scenes: () => readonly Scene[],
    private readonly assetAt: ReadonlyMap<string, number>,
    private readonly find: (address: string) => { scene: Scene; at: number } | null,
  ) {}

  /** The instance that a row names as its receiver or sender; null where its scene is not loaded or nothing is named. */
  end(scene: Scene, number: number): { scene: Scene; at: number } | null {
    if (number >= 0) return scene.loaded ? { scene, at: number } : null;
    return number === -1 ? null : this.find(scene.file.others[-2 - number]);
  }
  /** The instance of that number, or in every copy that there is of it. */
  allAt({ scene, at }: { scene: Scene; at: number }, beside: Instance | null): Instance[] {
    if (scene.spawned[at] === 0) return [placedIn(scene, at)];
    if (beside) return [beside.beside(at)];
    return (scene.copies.get(scene.templateOver(at)) ?? []).map((copy) => instanceIn(copy, at));
  }
  /** The placed instance, or the one in the owner's copy, at which an action is looked for in vain. */
  soleAt(bound: Bound): Instance | null {
    const { owner, row } = bound;
    const end = this.end(owner.scene, owner.scene.file.bindings.receiver[row]);
    if (!end) return null;
    if (end.scene.spawned[end.at] === 0) return placedIn(end.scene, end.at);
    return bound.toInside ? owner.beside(end.at) : null;
  }

  /** Who a binding reaches now; null where its target does not resolve. `reader` is whose keys it reads. */
  receivers(bound: Bound, reader: Instance): Instance[] | null {
    const { owner, row, decl } = bound;
    const { receiver, action } = owner.scene.file.bindings;
    const { to } = decl;
    if ('at' in to) {
      const end = action[row] < 0 ? null : this.end(owner.scene, receiver[row]);
      if (!end) return null;
      const all = this.allAt(end, bound.toInside ? owner : null);
      return end.scene.spawned[end.at] === 1 && !bound.toInside ? all.filter((i) => !i.gone) : all;
    }
    if ('channel' in to || action[row] < 0) return null;
    const asset = this.assetAt.get(to.every)!;
    let match: { property: string; value: Value } | null = null;
    if (to.match !== undefined && to.match !== 'all') {
      if (!owner.scene.tables[asset].propertyAt.has(to.match.property)) return null;
      const read = readKey(to.match.equals, reader);
      if (read === 'missing' || read.key === undefined) return null;
      match = { property: to.match.property, value: read.key };
    }
    return this.select(
      owner,
      asset,
      to.within === 'project',
      to.spawned === true,
      to.pick === 'first',
      match,
    );
  }

  private select(
    owner: Instance,
    asset: number,
    everywhere: boolean,
    spawned: boolean,
    first: boolean,
    match: { property: string; value: Value } | null,
  ): Instance[] {
    const found: Instance[] = [];
    const fits = (value: Value | undefined): boolean =>
      !match || (value !== undefined && sameValue(value, match.value));
    const take = (instance: Instance): boolean => {
      if (instance.gone) return false;
      found.push(instance);
      return first;
    };
    const own = owner.scene;
    const scenes = everywhere ? this.scenes() : [own];
    const inside = (at: number): boolean => everywhere || (at > owner.at && at < own.end[owner.at]);
    if (!spawned || owner.copy) {
      const leave = everywhere || owner.copy === null;
      for (const scene of scenes) {
        for (const at of scene.instancesOf(asset)) {
          if (!inside(at) || (leave && scene.spawned[at] === 1)) continue;
          if (match && !fits(scene.initialOf(at, match.property))) continue;
          if (take(scene === own ? owner.beside(at) : placedIn(scene, at))) return found;
        }
      }
      if (!spawned || !everywhere) return found;
      found.length = 0;
    }
    const fitting = (instance: Instance): boolean => !match || fits(instance.initial(match.property));
    for (const scene of scenes) {
      const bases = scene.instancesOf(asset).filter(inside);
      for (let i = 0; i < bases.length;) {
        if (scene.spawned[bases[i]] === 0) {
          const instance = placedIn(scene, bases[i++]);
          if (fitting(instance) && take(instance)) return found;
          continue;
        }
        const template = scene.templateOver(bases[i]);
        let end = i;
        while (end < bases.length && bases[end] < scene.end[template]) end++;
        for (const copy of scene.copies.get(template) ?? []) {
          for (let k = i; k < end; k++) {
            const instance = instanceIn(copy, bases[k]);
            if (fitting(instance) && take(instance)) return found;
          }
        }
        i = end;
      }
    }
    return found;
  }

  /** The receivers of a binding that hears a publication with that key (or none); `deaf` if none of them does. */
  hearers(bound: Bound, key: Value | undefined): { all: Instance[] | null } | 'deaf' {
    const { from } = bound.decl;
    const asked = 'channel' in from ? from.key : undefined;
    if (asked === undefined || isLiteral(asked)) {
      const hears = asked === undefined || (key !== undefined && sameValue(asked, key));
      return hears ? { all: this.receivers(bound, bound.owner) } : 'deaf';
    }
    if (key === undefined) return 'deaf';
    const all = this.receivers(bound, bound.owner);
    const listens = (instance: Instance): boolean => {
      const value = instance.initial(asked.property);
      return value !== undefined && sameValue(value, key);
    };
    if (all === null) {
      const sole = this.soleAt(bound);
      const away = bound.owner.scene.keys.get(bound.row);
      return (sole ? listens(sole) : away !== undefined && sameValue(away, key)) ? { all } : 'deaf';
    }
    const narrowed = all.filter(listens);
    return narrowed.length > 0 ? { all: narrowed } : 'deaf';
  }
}
