import type { Item } from './items.js';
import type { WrittenRun } from './raises.js';
import { whereTo } from './reasons.js';
import type { TimeQueue } from './time-queue.js';

/** Writes what was queued for later than the run goes on; gives how many that is. */
export function writeCut(run: WrittenRun, queue: TimeQueue<Item>): number {
  let cut = 0;
  for (const { due, item } of queue.rest()) {
    if (item.kind === 'raise' && item.special?.dropped) continue;
    cut++;
    if (item.kind === 'raise') {
      const event = run.x.assetOf(item.live.base).events[item.event].name;
      run.write({ kind: 'cut', due, at: run.population.address(item.live), event }, item.cause);
    } else if (item.kind === 'publication') {
      const through = item.state ? run.population.through(item.state) : {};
      run.write({ kind: 'cut', due, channel: item.channel, ...through }, item.cause);
    } else {
      const { to } = item.state.compiled.binding;
      const action = 'action' in to ? to.action : '';
      const at = whereTo(run, item);
      run.write({ kind: 'cut', due, ...run.population.through(item.state), at, action }, item.cause);
    }
  }
  return cut;
}
