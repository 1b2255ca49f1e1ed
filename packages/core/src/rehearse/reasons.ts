import type { Expansion } from '../expand/expansion.js';
import { maySend } from '../expand/peers.js';
import { joined, type RehearsalModel } from './rehearsal-model.js';
import type { Delivery, Raise } from './items.js';
import type { Population } from './population.js';
import type { TargetResolver } from './target-resolver.js';
import type { LossReason, RefusalReason } from './records.js';

/** What reasons are read from: the state of a run. */
export interface RunState {
  readonly x: Expansion;
  readonly model: RehearsalModel;
  readonly population: Population;
  readonly targets: TargetResolver;
  readonly paused: boolean;
}

/** Why a raise is refused; null if it is not. `by`: number of its peer. */
export function refusal(run: RunState, { live, event, special }: Raise, by: number): RefusalReason | null {
  const { x, population } = run;
  const decl = x.assetOf(live.base).events[event];
  if (live.gone && !special?.stood) return 'gone';
  if (population.isAsleep(live)) return 'asleep';
  if (decl.limit !== undefined && live.counts[event] >= decl.limit) return 'limit';
  if (
    'activators' in decl.cause &&
    decl.cause.activators &&
    !admits(x, decl.cause.activators, special?.activator ?? null)
  ) {
    return 'filtered';
  }
  if (run.model.peers > 0 && !maySend(decl, by, population.peersOf(live))) return 'barred';
  return run.paused && decl.raisedInPause !== true ? 'paused' : null;
}
function admits({ index }: Expansion, list: readonly string[], activator: string | null): boolean {
  if (activator === null) return false;
  const tags = index.assets[index.assetAt.get(activator) ?? -1]?.decl.tags ?? [];
  return list.some(
    (entry) => entry === activator || (entry.startsWith('#') && tags.includes(entry.slice(1))),
  );
}

/** Why a delivery is lost; null if it is not. */
export function loss(run: RunState, { live, state, action, audience }: Delivery): LossReason | null {
  const { target } = state.compiled;
  if (target.kind === 'path' && target.scene >= 0 && !run.targets.takesPart(target.scene)) return 'unloaded';
  if (!live) return 'dangling';
  const asset = run.x.assetOf(live.base);
  if (live.gone) return 'gone';
  if (asset.actions[action]?.whileAsleep !== true && run.population.isAsleep(live)) return 'asleep';
  if (run.paused && asset.decl.runsInPause !== true) return 'paused';
  if (audience) {
    const holds =
      asset.decl.existsOn === 'authority'
        ? audience.includes(run.population.peersOf(live).authority)
        : audience.length > 0;
    if (!holds) return 'nobody';
  }
  return action < 0 ? 'dangling' : null;
}

/** Where a delivery was bound for; what did not resolve stands as it is written, joined to its owner's address. */
export function whereTo({ x, population }: RunState, { live, state: { compiled, owner } }: Delivery): string {
  if (live) return population.address(live);
  const { to } = compiled.binding;
  if ('every' in to) return `every ${to.every}`;
  if (compiled.target.kind !== 'path' || !('at' in to)) return '';
  const { base } = compiled.target;
  return base >= 0 ? x.address(base) : joined(population.address(owner), to.at);
}
