import type { Expansion } from '../expand/expansion.js';
import type { Expectation, Value } from '../project/types.js';
import { sameValue } from '../project/value.js';
import { baseOf, type Named } from './addresses.js';
import type { InstanceState } from './instance-state.js';
import type { Population } from './population.js';

export interface Judgement {
  ok: boolean;
  /** With the number of the copy, where it names one. */
  at: string;
  got: Value | null;
  reason?: 'dangling' | 'unloaded' | 'gone';
  /** It names something that is not there or not loaded. */
  broken: boolean;
}

/** Judges what is expected of an instance now. */
export function judge(
  x: Expansion,
  population: Population,
  expect: Expectation,
  named: Named,
): Judgement & Expectation {
  const { live } = named;
  const at = live ? population.address(live) : expect.at;
  const failed = (reason: 'dangling' | 'unloaded' | 'gone'): Judgement & Expectation => ({
    ...expect,
    ok: false,
    at,
    got: null,
    reason,
    broken: reason !== 'gone',
  });
  if (named.fault === 'dangling') return failed('dangling');
  const base = baseOf(named);
  if (lacks(x, base, expect)) return failed('dangling');
  if (named.fault === 'unloaded') return failed('unloaded');
  const got = stateOf(x, population, live, base, expect);
  if (got === null) return failed('gone');
  return { ...expect, ok: sameValue(got, wanted(expect)), at, got, broken: false };
}

function lacks(x: Expansion, base: number, expect: Expectation): boolean {
  const asset = x.assetOf(base);
  if ('property' in expect) return !asset.propertyAt.has(expect.property);
  return 'action' in expect && !asset.actionAt.has(expect.action);
}
function wanted(expect: Expectation): Value {
  if ('property' in expect) return expect.is;
  if ('action' in expect) return expect.times;
  return 'asleep' in expect ? expect.asleep : expect.gone;
}
/** What is the case; null where it cannot be had of what is gone. A copy that is not born is gone too. */
function stateOf(
  x: Expansion,
  population: Population,
  live: InstanceState | null,
  base: number,
  expect: Expectation,
): Value | null {
  const gone = !live || live.gone;
  if ('gone' in expect) return gone;
  if ('action' in expect) {
    const asset = x.assetOf(base);
    return live ? live.counts[asset.events.length + asset.actionAt.get(expect.action)!] : 0;
  }
  if (gone) return null;
  return 'property' in expect ? population.current(live, expect.property)! : population.isAsleep(live);
}
