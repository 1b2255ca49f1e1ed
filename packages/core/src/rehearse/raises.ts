import { receivers as audienceOf } from '../expand/peers.js';
import type { Raise } from './items.js';
import { refusal, type RunState } from './reasons.js';
import type { RecordBody } from './records.js';
import type { Serving } from './serving.js';
import type { Wiring } from './wiring.js';

/** A run that is written down. */
export interface WrittenRun extends RunState {
  /** Whether anybody reads the records. */
  readonly isWritten: boolean;
  write(body: RecordBody, cause: number, step?: number): number;
  /** Counts a record that nobody reads, and returns its number. */
  count(cause: number): number;
}

/** Takes raises: refuses them, or has each binding on the event serve them. */
export class Raises {
  constructor(
    private readonly run: WrittenRun,
    private readonly wiring: Wiring,
    private readonly serving: Serving,
  ) {}

  take(raise: Raise): void {
    const { run } = this;
    const { live, event, cause, special } = raise;
    const decl = run.x.assetOf(live.base).events[event];
    const peers = run.model.peers > 0 ? run.population.peersOf(live) : null;
    const by = special?.by ?? peers?.authority ?? -1;
    const reason = refusal(run, raise, by);
    if (reason) {
      const at = run.population.address(live);
      run.write({ kind: 'refused', at, event: decl.name, reason }, cause, special?.step);
      return;
    }
    live.counts[event]++;
    const n = run.isWritten ? this.writeRaise(raise, peers ? by : -1) : run.count(cause);
    const audience = peers ? audienceOf(decl, run.model.peers, by, peers) : null;
    if (special?.stood) {
      for (const { state, activity } of special.stood)
        this.serving.raise(raise, state, activity, n, audience);
      return;
    }
    for (const state of this.wiring.on(live, event)) {
      this.serving.raise(raise, state, state.activityTowards(live), n, audience);
    }
  }
  private writeRaise({ live, event, payload, cause, special }: Raise, by: number): number {
    const { run } = this;
    const at = run.population.address(live);
    const body: RecordBody = {
      kind: 'raise',
      at,
      event: run.x.assetOf(live.base).events[event].name,
      payload,
    };
    if (by >= 0) body.by = run.model.peerRoles.names[by];
    return run.write(body, cause, special?.step);
  }
}
