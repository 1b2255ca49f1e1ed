import { performEffects, type EffectHost } from './effects.js';
import type { Delivery } from './items.js';
import type { WrittenRun } from './raises.js';
import { loss, whereTo } from './reasons.js';
import type { RunawayWatch } from './runaway.js';

/** Takes deliveries: performs their actions, or says why they are lost. */
export class Deliveries {
  /** How many were taken. */
  count = 0;

  constructor(
    private readonly run: WrittenRun & EffectHost,
    private readonly watch: RunawayWatch,
  ) {}

  /** Performs an action, or says why not. False where the run does not end. */
  take(delivery: Delivery): boolean {
    const { live, action, state, args, cause } = delivery;
    const { run } = this;
    const { x } = run;
    const node =
      live && action >= 0 ? x.nodeBase[live.base] + x.assetOf(live.base).events.length + action : -1;
    const why = this.watch.tooMany(node, this.count);
    if (why) {
      run.write({ kind: 'runaway', why, cycle: this.cycle(node, cause) }, cause);
      return false;
    }
    this.count++;
    const reason = loss(run, delivery);
    if (reason) {
      const { to } = state.compiled.binding;
      const name = 'action' in to ? to.action : '';
      run.write(
        { kind: 'lost', ...run.population.through(state), at: whereTo(run, delivery), action: name, reason },
        cause,
      );
      return true;
    }
    const asset = x.assetOf(live!.base);
    const times = ++live!.counts[asset.events.length + action];
    const n = run.isWritten ? this.writePerformed(delivery, times) : run.count(cause);
    this.watch.performed(node, live!, n);
    const { effects } = asset.actions[action];
    if (effects && effects.length > 0) performEffects(run, live!, asset.actions[action], args, times, n);
    return true;
  }
  private writePerformed({ live, state, action, args, cause }: Delivery, times: number): number {
    const { population, x } = this.run;
    const name = x.assetOf(live!.base).actions[action].name;
    const { owner, compiled } = state;
    return this.run.write(
      {
        kind: 'performed',
        owner: population.address(owner),
        binding: compiled.binding.id,
        at: population.address(live!),
        action: name,
        args,
        times,
      },
      cause,
    );
  }
  private cycle(node: number, cause: number): { action: string; at: string }[] {
    return this.watch.cycle(node, cause).map(({ live, node: n }) => {
      const { x, population } = this.run;
      const { events, actions } = x.assetOf(live.base);
      return {
        action: actions[n - x.nodeBase[live.base] - events.length].name,
        at: population.address(live),
      };
    });
  }
}
