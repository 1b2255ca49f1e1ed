import type { Binding, Condition } from '../project/types.js';
import type { NamedArg } from './named-args.js';

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
export interface CompiledBinding {
  /** Number of the expanded binding. */
  number: number;
  binding: Binding;
  args: readonly NamedArg[];
  /** Infinity where there is none. */
  limit: number;
  conditions: readonly Condition[] | null;
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
export type BindingActivity = 'inactive' | 'released' | 'active';
