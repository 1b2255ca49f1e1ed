import type { Raise } from './items.js';
import type { InstanceState } from './instance-state.js';

/** What effects with `restart` have queued and nobody has taken yet, by instance and effect. */
export class Restarts {
  private readonly waiting = new Map<InstanceState, Map<string, { raise: Raise; due: number }>>();

  /** Puts a raise in the place of the one that waits; returns when that was due, which is dropped, or null. */
  replace(raise: Raise, effect: string, due: number): number | null {
    let own = this.waiting.get(raise.live);
    if (!own) this.waiting.set(raise.live, (own = new Map<string, { raise: Raise; due: number }>()));
    const before = own.get(effect);
    if (before) before.raise.special!.dropped = true;
    own.set(effect, { raise, due });
    return before?.due ?? null;
  }
  done(live: InstanceState, effect: string): void {
    this.waiting.get(live)!.delete(effect);
  }
}
