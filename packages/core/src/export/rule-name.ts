import type { Finding } from '../audit/finding.js';

/** `relay-cycle/instant`, or the rule alone where it has no classes. */
export function ruleName(f: Pick<Finding, 'rule' | 'class'>): string {
  return f.class === undefined ? f.rule : `${f.rule}/${f.class}`;
}
