import type { ProjectIndex } from '../project/index-project.js';
import type { StandIn } from './stand-ins.js';

export const MAX_INSTANCES = 5_000_000;

/** Thrown when a document would expand beyond what is allowed; `chain` is the nesting of assets that multiplies. */
export class ProjectTooLarge extends Error {
  override readonly name = 'ProjectTooLarge';
  constructor(
    readonly what: 'instances' | 'edges',
    readonly count: number,
    readonly limit: number,
    readonly chain: readonly string[],
  ) {
    const size = count >= 1e15 ? count.toExponential(1) : Math.round(count).toLocaleString('en-GB');
    super(
      what === 'instances'
        ? `the project expands to ${size} instances, more than the ${limit.toLocaleString('en-GB')} allowed; ` +
            `it multiplies along ${chain.join(' > ')}; place fewer copies at one of these levels`
        : `the bindings expand to more than ${limit.toLocaleString('en-GB')} deliveries; ` +
            `narrow the selections of ${chain.join(' > ')} by a match or to one owner`,
    );
  }
}

/**
 * Counts the instances of a project without making them, and refuses a project that is too large.
 * A placement that closes a loop counts as none. Linear in the document; explicit stack.
 * @throws ProjectTooLarge
 */
export function checkSize(index: ProjectIndex, standIns: readonly StandIn[][]): void {
  const inside = sizesInside(index);
  // An asset that is not spawned also holds stand-ins, and so do the placements inside it.
  const whole = sizes(index, (at) => standIns[at].reduce((sum, s) => sum + inside[s.asset], 1));
  let total = 0;
  let heaviest = -1;
  for (const asset of index.assets) {
    if (asset.decl.kind !== 'scene') continue;
    total += whole[asset.at];
    if (heaviest < 0 || whole[asset.at] > whole[heaviest]) heaviest = asset.at;
  }
  if (total > MAX_INSTANCES) {
    throw new ProjectTooLarge('instances', total, MAX_INSTANCES, multiplyingChain(index, whole, heaviest));
  }
}

function sizesInside(index: ProjectIndex): Float64Array {
  return sizes(index, () => 1);
}

/** For each asset its own weight and that of all that it contains, by a walk after the children. */
function sizes(index: ProjectIndex, own: (at: number) => number): Float64Array {
  const size = new Float64Array(index.assets.length);
  const state = new Uint8Array(index.assets.length); // 0 new, 1 on the path, 2 done
  const stack: number[] = [];
  for (let root = 0; root < index.assets.length; root++) {
    if (state[root] === 0) stack.push(root);
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
      let sum = own(at);
      for (const child of placed) if (child >= 0 && state[child] === 2) sum += size[child];
      size[at] = sum;
      state[at] = 2;
    }
  }
  return size;
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
