import type { Instance } from './instance.js';
import type { Raise } from './queued.js';

/** Raises that wait under a name, each of which the next of that name of the same instance takes the place of. */
export class Restarts {
  private readonly waiting = new Map<Instance, Map<string, { raise: Raise; due: number }>>();

  /** Puts a raise in the place of the one that waits; returns when that was due, which is dropped, or null. */
  replace(raise: Raise, name: string, due: number): number | null {
    let own = this.waiting.get(raise.instance);
    if (!own) this.waiting.set(raise.instance, (own = new Map<string, { raise: Raise; due: number }>()));
    const before = own.get(name);
    if (before) before.raise.special!.dropped = true;
    own.set(name, { raise, due });
    return before?.due ?? null;
  }
  done(instance: Instance, name: string): void {
    this.waiting.get(instance)!.delete(name);
  }
}
