import type { Expansion } from '../expand/expansion.js';
import { rehearse } from '../rehearse/rehearse.js';
import type { AuditResult } from './finding.js';

/**
 * The audit with what its rehearsals say to the gate, where the policy counts them: one that fails stops it. They are
 * run for this; an audit whose policy does not ask is returned as it is.
 */
export function withRehearsals(
  result: AuditResult,
  x: Expansion,
  gate: 'error' | 'warning' | 'none' | undefined,
): AuditResult {
  const { policy, rehearsals = [] } = x.index.project;
  if (policy?.rehearsals !== true || gate === 'none') return result;
  const { verdicts } = rehearse(x, rehearsals);
  const failed = verdicts.filter((v) => !v.pass).map((v) => v.name);
  return {
    ...result,
    gate: failed.length > 0 ? 'stop' : result.gate,
    rehearsals: { run: verdicts.length, failed },
  };
}
