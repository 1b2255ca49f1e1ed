import type { Expansion } from '../expand/expansion.js';
import type { Value } from '../project/types.js';
import { isLiteral, sameValue } from '../project/value.js';
import type { RehearsalModel } from './rehearsal-model.js';
import type { BindingState, InstanceState } from './instance-state.js';
import type { Population } from './population.js';
import { selectLive } from './select.js';

/** A key that is read from a property that is not there. */
export const MISSING = Symbol('missing');
/** What a key comes to: a value, or none. */
export interface KeyRead {
  key: Value | undefined;
}
export const NO_KEY: KeyRead = { key: undefined };

/** Whom bindings reach as a run stands. */
export class TargetResolver {
  private readonly x: Expansion;

  constructor(
    private readonly model: RehearsalModel,
    private readonly population: Population,
    /** Whether the scene of an instance takes part. */
    readonly takesPart: (instance: number) => boolean,
  ) {
    this.x = model.x;
  }

  /** The instance of that number, or in every copy that there is of it. */
  allAt(base: number, beside: InstanceState | null): InstanceState[] {
    const { population } = this;
    if (!this.x.isSpawned(base)) return [population.at(base)];
    if (beside) return [population.beside(beside, base)];
    const standIn = this.model.standInOver(base);
    return population.copiesOf(standIn).map((copy) => population.inside(copy, base));
  }

  /** Nearly every target: it needs no list. */
  isPlacedHere(base: number): boolean {
    return base >= 0 && !this.x.isSpawned(base) && this.takesPart(base);
  }
  /** The placed instance, or the one in the owner's copy, at which an action is looked for in vain. */
  soleAt({ compiled: { target }, owner }: BindingState): InstanceState | null {
    if (target.kind !== 'path' || target.base < 0) return null;
    if (!this.x.isSpawned(target.base)) return this.population.at(target.base);
    return target.sameCopy ? this.population.beside(owner, target.base) : null;
  }

  /** Who a binding reaches now; null where its target does not resolve. `reader` is whose keys it reads. */
  receivers(state: BindingState, reader: InstanceState): InstanceState[] | null {
    const { target, binding } = state.compiled;
    if (target.kind === 'path') {
      if (target.base < 0 || target.action < 0 || !this.takesPart(target.base)) return null;
      const all = this.allAt(target.base, target.sameCopy ? state.owner : null);
      return this.x.isSpawned(target.base) && !target.sameCopy ? all.filter((live) => !live.gone) : all;
    }
    if (target.kind === 'channel' || !target.known || !('every' in binding.to)) return null;
    const { match, within = 'asset', pick = 'all', spawned = false } = binding.to;
    let wanted: { property: string; value: number } | null = null;
    if (match !== undefined && match !== 'all') {
      const key = this.keyOf(match.equals, reader);
      if (key === MISSING || key.key === undefined) return null;
      wanted = { property: match.property, value: this.model.values.number(key.key) };
    }
    const selection = { asset: target.asset, within, spawned, pick, match: wanted };
    return selectLive(this.model, this.population, this.takesPart, state.owner, selection);
  }
  keyOf(key: Value | { property: string } | undefined, reader: InstanceState): KeyRead | typeof MISSING {
    if (key === undefined) return NO_KEY;
    if (isLiteral(key)) return { key };
    const value = this.population.initial(reader, key.property);
    return value === undefined ? MISSING : { key: value };
  }

  /** The receivers of a binding that hears a publication with that key (or none); `deaf` if none of them does. */
  hearers(state: BindingState, key: Value | undefined): { lives: readonly InstanceState[] | null } | 'deaf' {
    const { from } = state.compiled.binding;
    const own = 'channel' in from ? from.key : undefined;
    if (own === undefined || isLiteral(own)) {
      const hears = own === undefined || (key !== undefined && sameValue(own, key));
      return hears ? { lives: this.receivers(state, state.owner) } : 'deaf';
    }
    if (key === undefined) return 'deaf';
    const lives = this.receivers(state, state.owner);
    const listens = (live: InstanceState): boolean => {
      const value = this.population.initial(live, own.property);
      return value !== undefined && sameValue(value, key);
    };
    if (lives === null) {
      const sole = this.soleAt(state);
      return sole && listens(sole) ? { lives } : 'deaf';
    }
    const narrowed = lives.filter(listens);
    return narrowed.length > 0 ? { lives: narrowed } : 'deaf';
  }
}
