import type { Binding } from '../project/types.js';
import type { Live } from './live.js';

/** Where a binding delivers, worked out once for each expanded binding. */
export type Target =
  | { kind: 'channel'; channel: string; known: boolean }
  | {
      kind: 'path';
      /** The instance that the path names; negative where it names none. */
      base: number;
      /** The instance of the scene that an absolute path leads to; −1 for the owner's own. */
      scene: number;
      /** The path stays inside the owner's copy, rather than naming all copies of a stand-in. */
      sameCopy: boolean;
      action: number;
    }
  | { kind: 'every'; asset: number; known: boolean; action: number };

/** What is the same for an expanded binding in every run. */
export interface HeldPlan {
  /** Number of the expanded binding. */
  number: number;
  binding: Binding;
  target: Target;
  /** The sender lies in the owner's own copy; otherwise the binding holds for every copy of what its path names. */
  sameCopy: boolean;
  /** Microseconds. */
  delay: number;
  /** Takes hold when its owner starts. */
  atStart: boolean;
  release: 'own' | 'all' | 'never';
}

/** How a binding stands towards a sender (null: towards the channel that it hears). */
export type Hold = 'not' | 'released' | 'holds';

/** The state of one expanded binding in a run, in one copy of its owner. */
export class Held {
  /** Raises served. */
  served = 0;
  /** Senders that somebody else's release has taken it from. */
  private released: Set<Live | null> | null = null;

  constructor(
    readonly owner: Live,
    readonly plan: HeldPlan,
  ) {}

  /** When it took hold, on the clock of binding; −1 if it has not. */
  get since(): number {
    if (this.plan.atStart) return this.owner.started;
    return this.owner.copy ? this.owner.copy.born : 0;
  }
  towards(sender: Live | null): Hold {
    if (this.since < 0 || (this.owner.gone && this.plan.release !== 'never')) return 'not';
    return this.released?.has(sender) ? 'released' : 'holds';
  }
  release(sender: Live | null): void {
    (this.released ??= new Set()).add(sender);
  }
}
