import type { Delivery, Instance, Queued } from '@oquel/runtime';
import { LIMITS } from '../limits.js';
import { TimeQueue } from '../rehearse/time-queue.js';

/** Something that should happen, in the order in which it should. */
export interface Expected {
  item: Queued;
  /** Microseconds. */
  due: number;
  seq: number;
  /** It has happened, or is not waited for any more. */
  over: boolean;
}

/**
 * What should happen in a session: found by what it is, and by when it is due. What is found is looked for among what one
 * instance, or one channel, should do, which is at most `LIMITS.plays.pendingAt`.
 */
export class ExpectedItems {
  /** Without times nothing ever falls due. */
  isTimed = true;
  /** What was given up, since there was too much. */
  left = 0;
  private readonly queue = new TimeQueue<Expected>();
  private readonly at = new Map<Instance | string | null, Expected[]>();
  private seq = 0;

  add(item: Queued, due: number): Expected {
    const expected = { item, due, seq: ++this.seq, over: false };
    const place = placeOf(item);
    const list = this.at.get(place);
    if (list) list.push(expected);
    else this.at.set(place, [expected]);
    if (list && list.length > LIMITS.plays.pendingAt) {
      this.end(list[0]);
      this.left++;
    }
    if (this.isTimed) this.queue.push(due, expected);
    return expected;
  }
  /** The one that should happen first of those at a place that are due by a time and fit. */
  find(place: Instance | string | null, by: number, fits: (item: Queued) => boolean): Expected | null {
    let found: Expected | null = null;
    for (const e of this.at.get(place) ?? []) {
      if (e.due > by || !fits(e.item)) continue;
      if (!found || e.due < found.due || (e.due === found.due && e.seq < found.seq)) found = e;
    }
    return found;
  }
  /** It is over with it. */
  end(expected: Expected): void {
    if (expected.over) return;
    expected.over = true;
    const place = placeOf(expected.item);
    const list = this.at.get(place)!;
    list.splice(list.indexOf(expected), 1);
    if (list.length === 0) this.at.delete(place);
  }
  /** Takes out what is due up to a time and not over, by due time, then in order. */
  *takeUntil(time: number): Iterable<Expected> {
    while (this.queue.next <= time) {
      for (const e of this.queue.take(this.queue.next)) {
        if (e.over) continue;
        this.end(e);
        yield e;
      }
    }
    if (this.isTimed) return;
    for (const e of [...this.at.values()].flat()) {
      if (e.due > time) continue;
      this.end(e);
      yield e;
    }
  }
}

/** Where something is looked for: the instance that acts or raises, or a channel. */
function placeOf(item: Queued): Instance | string | null {
  if (item.kind === 'publication') return `#${item.channel}`;
  return item.instance;
}
/** The name of a delivery's action, where it has one. */
export function actionName({ instance, action, bound }: Delivery): string {
  if (instance && action >= 0) return instance.table.decl.actions[action].name;
  const { to } = bound.decl;
  return 'action' in to ? to.action : '';
}
