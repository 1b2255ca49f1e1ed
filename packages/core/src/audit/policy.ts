import type { Policy, Severity } from '../project/types.js';
import { own } from '../util/own.js';
import { sameJson } from '../util/same-json.js';

export const DEFAULT_POLICY = { maxFanOut: 12, maxChain: 6, maxReach: 200, maxTangle: 8 } as const;
export type Thresholds = { readonly [K in keyof typeof DEFAULT_POLICY]: number };

export function thresholds(policy: Policy | undefined): Thresholds {
  const { maxFanOut, maxChain, maxReach, maxTangle } = { ...DEFAULT_POLICY, ...policy };
  return { maxFanOut, maxChain, maxReach, maxTangle };
}

/** What units are judged again after, when these parts of the policy change; severities only relabel what is found. */
const CHANGES = {
  maxFanOut: 'limit of fan-outs',
  maxChain: 'limit of chains',
  maxReach: 'limit of reaches',
  maxTangle: 'limit of tangles',
  names: 'name patterns',
} as const;
/** Which of them differ between two policies. */
export function policyChanges(before: Policy | undefined, after: Policy | undefined): Set<string> {
  const [was, is] = [before, after].map((p) => ({ ...DEFAULT_POLICY, ...p }));
  const parts = Object.keys(CHANGES) as (keyof typeof CHANGES)[];
  return new Set(parts.filter((part) => !sameJson(was[part], is[part])).map((part) => CHANGES[part]));
}

/** The severity that a policy gives to a rule or a class of it; the longer key wins. */
export function severityOf(
  policy: Policy | undefined,
  rule: string,
  cls: string | undefined,
  fallback: Severity,
): Severity {
  const by = policy?.severity;
  if (!by) return fallback;
  const longer = cls === undefined ? undefined : own(by, `${rule}/${cls}`);
  return longer ?? own(by, rule) ?? fallback;
}
