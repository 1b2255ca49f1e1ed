import { LIMITS } from '../limits.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { StandIns } from './stand-ins.js';
import { ProjectTooLarge, type Amount } from './too-large.js';

type Weight = (asset: AssetIndex) => number;
/** What is counted, with its bound. */
const COUNTED: readonly [Amount, number, Weight][] = [
  ['instances', LIMITS.expansion.instances, () => 1],
  ['events and actions', LIMITS.expansion.nodes, (a) => a.events.length + a.actions.length],
  ['bindings', LIMITS.expansion.bindings, (a) => a.bindings.length],
];

/**
 * Counts the instances of a project, their events and actions and their bindings without making them, and refuses a
 * project that is too large. A placement that closes a loop counts as none. What is placed is counted before what is
 * spawned is looked for. Linear in the document and the lists of stand-ins; explicit stack.
 * @throws ProjectTooLarge
 */
export function checkSize(index: ProjectIndex, standIns: StandIns): void {
  checkLevels(index);
  for (const [what, limit, weight] of COUNTED) refuse(index, what, limit, sizes(index, weight));
  for (const [what, limit, weight] of COUNTED) {
    const inside = sizes(index, weight);
    // An asset that is not spawned also holds stand-ins, and so do the placements inside it.
    const whole = (asset: AssetIndex): number =>
      standIns.of(asset.at).reduce((sum, s) => sum + inside[s.asset], weight(asset));
    refuse(index, what, limit, sizes(index, whole));
  }
}

function refuse(index: ProjectIndex, what: Amount, limit: number, size: Float64Array): void {
  let total = 0;
  let heaviest = -1;
  for (const asset of index.assets) {
    if (asset.decl.kind !== 'scene') continue;
    total += size[asset.at];
    if (heaviest < 0 || size[asset.at] > size[heaviest]) heaviest = asset.at;
  }
  if (total > limit) throw new ProjectTooLarge(what, total, limit, multiplyingChain(index, size, heaviest));
}

/** Addresses and sleep are made along the levels, so there may not be arbitrarily many of them. */
function checkLevels(index: ProjectIndex): void {
  const levels = walk(index, (_asset, children) => children.reduce((deep, n) => Math.max(deep, n), 0) + 1);
  const deepest = index.assets.find((a) => levels[a.at] > LIMITS.expansion.levels);
  if (!deepest) return;
  throw new ProjectTooLarge('levels', levels[deepest.at], LIMITS.expansion.levels, [deepest.decl.id]);
}

/** For each asset that a scene contains its own weight and that of all that it contains. */
function sizes(index: ProjectIndex, own: Weight): Float64Array {
  return walk(index, (asset, children) => children.reduce((sum, n) => sum + n, own(asset)));
}
/** Works a number out for all that scenes contain, from those of what each contains: a walk after the children. */
function walk(index: ProjectIndex, take: (asset: AssetIndex, children: number[]) => number): Float64Array {
  const found = new Float64Array(index.assets.length);
  const state = new Uint8Array(index.assets.length); // 0 new, 1 on the path, 2 done
  const stack: number[] = [];
  for (const root of index.assets) {
    if (root.decl.kind !== 'scene') continue;
    stack.push(root.at);
    while (stack.length > 0) {
      const at = stack[stack.length - 1];
      const { placed } = index.assets[at];
      if (state[at] === 0) {
        state[at] = 1;
        for (const child of placed) if (child >= 0 && state[child] === 0) stack.push(child);
        continue;
      }
      stack.pop();
      if (state[at] === 2) continue;
      const children: number[] = [];
      for (const child of placed) if (child >= 0 && state[child] === 2) children.push(found[child]);
      found[at] = take(index.assets[at], children);
      state[at] = 2;
    }
  }
  return found;
}

function multiplyingChain(index: ProjectIndex, size: Float64Array, from: number): string[] {
  const chain: string[] = [];
  const seen = new Set<number>();
  for (let at = from; at >= 0 && !seen.has(at);) {
    seen.add(at);
    const asset = index.assets[at];
    chain.push(asset.decl.id);
    const total = new Map<number, number>();
    for (const child of asset.placed) {
      if (child >= 0) total.set(child, (total.get(child) ?? 0) + size[child]);
    }
    at = -1;
    let most = 1;
    for (const [child, sum] of total) {
      if (sum > most) {
        most = sum;
        at = child;
      }
    }
    if (at >= 0) {
      const copies = asset.placed.filter((c) => c === at).length;
      if (copies > 1) chain[chain.length - 1] += ` (${copies} × ${index.assets[at].decl.id})`;
    }
  }
  return chain;
}
