import type { AssetIndex } from '../project/index-project.js';
import { parsePath } from '../project/path.js';
import type { Binding, BindingFrom, BindingTo, KeyExpr } from '../project/types.js';

/** Where a sight line ends: at a thing of the same plan, or beyond it, with a name. */
export type SightEnd = { path: string } | { beyond: string };
/** One binding seen on a plan from a thing that it names. */
export interface SightLine {
  binding: Binding;
  /** The thing that is looked from. */
  thing: string;
  /** Whether the thing is the receiver, rather than the sender. */
  isIncoming: boolean;
  /** The other end. */
  end: SightEnd;
  /** Its place among the bindings of the same event, from 1: in this order they act. */
  order: number;
  /** The key of the channel that lies between. */
  key: KeyExpr | undefined;
}

/**
 * What the things of an owner reach by its own bindings, and what reaches them, in running order. `others` are things that a
 * selection means: those of an asset on this plan. Lines between things that are both chosen are listed once. Cost: the owner's bindings, and
 * the things that selections mean.
 */
export function sightLines(
  owner: AssetIndex,
  chosen: ReadonlySet<string>,
  ofAsset: (asset: string) => readonly string[],
): SightLine[] {
  const orders = new Map<string, number>();
  const lines: SightLine[] = [];
  for (const binding of owner.bindings) {
    const { from, to } = binding;
    const event = 'channel' in from ? `#${from.channel}` : `${from.at}.${from.event}`;
    const order = (orders.get(event) ?? 0) + 1;
    orders.set(event, order);
    const starts = startOf(from);
    const ends = endsOf(owner, to, ofAsset);
    const key = 'channel' in from ? from.key : 'channel' in to ? to.key : undefined;
    const put = (thing: string, isIncoming: boolean, end: SightEnd): void => {
      lines.push({ binding, thing, isIncoming, end, order, key });
    };
    if ('path' in starts && chosen.has(starts.path)) {
      for (const end of ends) put(starts.path, false, end);
      continue;
    }
    for (const end of ends) if ('path' in end && chosen.has(end.path)) put(end.path, true, starts);
  }
  return lines;
}

function startOf(from: BindingFrom): SightEnd {
  return 'channel' in from ? { beyond: `#${from.channel}` } : placeOf(from.at);
}
function endsOf(owner: AssetIndex, to: BindingTo, ofAsset: (asset: string) => readonly string[]): SightEnd[] {
  if ('channel' in to) return [{ beyond: `#${to.channel}` }];
  if ('at' in to) return [placeOf(to.at)];
  const here = ofAsset(to.every).map((path): SightEnd => ({ path }));
  return here.length > 0 && to.within !== 'project' ? here : [...here, { beyond: `every ${to.every}` }];
}
/** The thing of the plan that a path goes through first. */
function placeOf(at: string): SightEnd {
  const { scene, segments } = parsePath(at);
  if (scene !== null) return { beyond: at };
  return { path: segments.length === 0 ? '.' : segments[0] };
}
