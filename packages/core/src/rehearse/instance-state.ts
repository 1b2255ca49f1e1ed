import type { Value } from '../project/types.js';
import type { BindingActivity, CompiledBinding } from './compiled-binding.js';

/** One copy that a `spawn` effect made of a stand-in. */
export class Copy {
  /** What it contains, itself included, by the instance's number; made when first asked for. */
  readonly inside = new Map<number, InstanceState>();
  constructor(
    /** The instance that stands in for all copies. */
    readonly standIn: number,
    /** Counted from 1, in order of birth. */
    readonly number: number,
    /** When it was born, on the clock of binding. */
    readonly born: number,
    /** Overrides of the effect that spawned it. */
    readonly overrides: Readonly<Record<string, Value>>,
    readonly authority: number,
    readonly operator: number,
  ) {}
}

/** The state of one instance in a run: a placed one, or one in a copy of what stands in for it. */
export class InstanceState {
  gone = false;
  /** When it started, on the clock of binding; −1 until it is first awake. */
  started = -1;
  /** Values by property number, once they were asked for or put by effects. */
  values: (Value | undefined)[] | null = null;
  /** Raises of each event, then performances of each action. */
  readonly counts: number[];
  /** Its own bindings, each made when first asked for. */
  readonly bindings: (BindingState | undefined)[] = [];
  /** Its address, once it was asked for. */
  address: string | null = null;
  /** Peers, once they were asked for: numbers of names; −2 before. */
  authority = -2;
  operator = -2;

  constructor(
    /** The instance of the expansion that it is, or that stands in for it. */
    readonly base: number,
    /** The copy that it is in; null for a placed one. */
    readonly copy: Copy | null,
    /** Its own flag. */
    public asleep: boolean,
    nodes: number,
  ) {
    this.counts = new Array<number>(nodes).fill(0);
  }
}

/** The state of one expanded binding in a run, in one copy of its owner. */
export class BindingState {
  /** Raises served. */
  served = 0;
  /** Senders that somebody else's release has taken it from. */
  private released: Set<InstanceState | null> | null = null;

  constructor(
    readonly owner: InstanceState,
    readonly compiled: CompiledBinding,
  ) {}

  /** When it took hold, on the clock of binding; −1 if it has not. */
  get since(): number {
    if (this.compiled.atStart) return this.owner.started;
    return this.owner.copy ? this.owner.copy.born : 0;
  }
  activityTowards(sender: InstanceState | null): BindingActivity {
    if (this.since < 0 || (this.owner.gone && this.compiled.release !== 'never')) return 'inactive';
    return this.released?.has(sender) ? 'released' : 'active';
  }
  release(sender: InstanceState | null): void {
    (this.released ??= new Set()).add(sender);
  }
}
