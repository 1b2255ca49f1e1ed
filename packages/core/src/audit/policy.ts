import type { Policy, Severity } from '../project/types.js';
import { own } from '../util/own.js';

export const DEFAULT_POLICY = { maxFanOut: 12, maxChain: 6, maxReach: 200, maxTangle: 8 } as const;
export type Thresholds = { readonly [K in keyof typeof DEFAULT_POLICY]: number };

export function thresholds(policy: Policy | undefined): Thresholds {
  const { maxFanOut, maxChain, maxReach, maxTangle } = { ...DEFAULT_POLICY, ...policy };
  return { maxFanOut, maxChain, maxReach, maxTangle };
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
