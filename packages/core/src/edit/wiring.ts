import { firstFree } from './first-free.js';
import { MISSING, resolveByText } from '../expand/resolve.js';
import { StandIns } from '../expand/stand-ins.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Action, Binding, Placement, Vec2 } from '../project/types.js';
import { append } from '../util/append.js';

/** Something that a binding of an owner can name: the owner itself, or a placement inside it at any depth. */
export interface Reachable {
  /** As a binding writes it. */
  path: string;
  asset: AssetIndex;
  /** Metres on the owner's plan. */
  at: Vec2;
  /** 0 for the owner, 1 for its own placements. */
  depth: number;
  /** Absent for the owner itself. */
  placement?: Placement;
  /** It, or what contains it, begins asleep. */
  asleep: boolean;
}

/** Beyond this many the rest is left out; a binding can still name them by typing. */
const MAX_REACHABLE = 200_000;

/** Everything that a binding of the owner can name, in array order, depth first. Explicit stack. */
export function reachableFrom(index: ProjectIndex, owner: AssetIndex): Reachable[] {
  const list: Reachable[] = [{ path: '.', asset: owner, at: [0, 0], depth: 0, asleep: false }];
  const stack = children(index, list[0], [owner.at]).reverse();
  for (let next = stack.pop(); next && list.length < MAX_REACHABLE; next = stack.pop()) {
    list.push(next.thing);
    append(stack, children(index, next.thing, next.containing).reverse());
  }
  return list;
}

function children(
  index: ProjectIndex,
  parent: Reachable,
  containing: number[],
): { thing: Reachable; containing: number[] }[] {
  return parent.asset.placements.flatMap((placement, i) => {
    const placed = parent.asset.placed[i];
    if (placed < 0 || containing.includes(placed)) return [];
    const [x, y] = placement.at ?? [0, 0];
    const thing: Reachable = {
      path: parent.path === '.' ? placement.id : `${parent.path}/${placement.id}`,
      asset: index.assets[placed],
      at: [parent.at[0] + x, parent.at[1] + y],
      depth: parent.depth + 1,
      placement,
      asleep: parent.asleep || placement.asleep === true,
    };
    return [{ thing, containing: [...containing, placed] }];
  });
}

const standIns = new WeakMap<ProjectIndex, StandIns>();
/** What is spawned in a project as it is, found once. */
function standInsOf(index: ProjectIndex): StandIns {
  let known = standIns.get(index);
  if (!known) standIns.set(index, (known = new StandIns(index)));
  return known;
}
/** The asset that a path of the owner names; null if it names nothing. */
export function assetAtPath(index: ProjectIndex, owner: AssetIndex, path: string): AssetIndex | null {
  const at = resolveByText(index, standInsOf(index), owner.at, path);
  return at <= MISSING ? null : index.assets[at];
}

/** The asset at an address of a rehearsal, in which copies may carry numbers; null if there is none. */
export function assetAtAddress(index: ProjectIndex, address: string): AssetIndex | null {
  const colon = address.indexOf(':');
  const scene = index.assets[index.assetAt.get(address.slice(0, Math.max(0, colon))) ?? -1] as
    AssetIndex | undefined;
  return scene ? assetAtPath(index, scene, address.replace(/(~[^/#]+)#\d+/g, '$1')) : null;
}

/** Bindings of the owner that leave one event of one sender, in running order. */
export function bindingsOf(owner: AssetIndex, path: string, event: string): Binding[] {
  return owner.bindings.filter((b) => 'at' in b.from && b.from.at === path && b.from.event === event);
}

/** For each receiver path the actions that the event is already wired to, disabled bindings included. */
export function wiredActions(owner: AssetIndex, path: string, event: string): Map<string, Set<string>> {
  const wired = new Map<string, Set<string>>();
  for (const b of bindingsOf(owner, path, event)) {
    if (!('at' in b.to)) continue;
    const actions = wired.get(b.to.at) ?? new Set();
    actions.add(b.to.action);
    wired.set(b.to.at, actions);
  }
  return wired;
}

/** Actions that every one of the assets offers with the same parameters, in the order of the first. */
export function commonActions(assets: readonly AssetIndex[]): Action[] {
  if (assets.length === 0) return [];
  const [first, ...others] = [...new Set(assets)];
  return first.actions.filter((action) =>
    others.every((asset) => {
      const at = asset.actionAt.get(action.name);
      return at !== undefined && sameParams(asset.actions[at], action);
    }),
  );
}
function sameParams(a: Action, b: Action): boolean {
  return JSON.stringify(a.params ?? []) === JSON.stringify(b.params ?? []);
}

/** A free binding id made of a stem, such as `onGust-3`; the stem's characters are kept within the format's names. */
export function freeBindingId(
  owner: AssetIndex,
  stem: string,
  taken: ReadonlySet<string> = new Set(),
): string {
  const base = stem
    .replace(/[^A-Za-z0-9_-]/g, '-')
    .replace(/^[^A-Za-z_]/, '_')
    .slice(0, 52);
  return firstFree(`${owner.decl.id}/${base}`, base, taken, (id) => owner.bindingAt.has(id) || taken.has(id));
}

/** When two scenes are loaded at the same time. */
export interface Together {
  /** They are one, one of them is persistent, or the project has no load sets. */
  always: boolean;
  /** Load sets that hold both. */
  sets: string[];
  /** Load sets that hold the first without the second. */
  without: string[];
}

/** Whether what happens in one scene can reach another at once. Cost: the load sets. */
export function loadedTogether(index: ProjectIndex, from: AssetIndex, to: AssetIndex): Together {
  const sets = index.project.loadSets ?? [];
  if (from === to || to.decl.persistent === true || sets.length === 0) {
    return { always: true, sets: [], without: [] };
  }
  const holds = (scenes: readonly string[], scene: AssetIndex): boolean =>
    scene.decl.persistent === true || scenes.includes(scene.decl.id);
  const here = sets.filter((s) => holds(s.scenes, from));
  return {
    always: false,
    sets: here.filter((s) => holds(s.scenes, to)).map((s) => s.name),
    without: here.filter((s) => !holds(s.scenes, to)).map((s) => s.name),
  };
}

/** One binding that publishes to a channel or hears it. */
export interface ChannelUse {
  owner: AssetIndex;
  binding: Binding;
}

/** All that meet on a channel, in the order of assets. Linear in the bindings. */
export function meetingOn(
  index: ProjectIndex,
  channel: string,
): { publish: ChannelUse[]; hear: ChannelUse[] } {
  const meeting = { publish: [] as ChannelUse[], hear: [] as ChannelUse[] };
  for (const owner of index.assets) {
    for (const binding of owner.bindings) {
      if ('channel' in binding.to && binding.to.channel === channel) meeting.publish.push({ owner, binding });
      if ('channel' in binding.from && binding.from.channel === channel)
        meeting.hear.push({ owner, binding });
    }
  }
  return meeting;
}
