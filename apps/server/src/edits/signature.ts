import { changesGate, type Change, type Project, type Waiver } from '@oquel/core';
import type { Actor } from '../team/actor.js';
import { isAtLeast } from '../team/roles.js';
import { notAllowed } from '../team/team.problems.js';
import { ProblemError } from '../http/problem.js';

/**
 * What decides whether a build passes takes a lead: the policy, and waivers that count; a designer proposes some; and a new waiver is signed by whoever makes it, so
 * that nobody signs for somebody else. What is undone, or comes from a whole document, was signed before. Cost: the changes, and the waivers where they are changed.
 * @throws ProblemError 403
 */
export function checkSignature(
  project: Project,
  changes: readonly Change[],
  by: Actor,
  isSent: boolean,
): void {
  for (const change of changes) {
    if (changesGate(project, change) && !isAtLeast(by.role, 'lead')) throw notAllowed('lead', []);
    if (change.op === 'set' && change.asset === undefined && change.part === 'waivers' && isSent)
      checkWaivers(project.waivers ?? [], change.value, by);
  }
}
function checkWaivers(before: readonly Waiver[], after: unknown, { name }: Actor): void {
  if (!Array.isArray(after)) return;
  const known = new Set(before.map((w) => JSON.stringify([w.fingerprint, w.by])));
  for (const waiver of after as Partial<Waiver>[]) {
    if (waiver.by === name || known.has(JSON.stringify([waiver.fingerprint, waiver.by]))) continue;
    const detail = `a waiver is signed by who makes it: ${name}, not ${String(waiver.by)}`;
    throw new ProblemError(403, 'not-allowed', 'Signed by somebody else', detail, { needs: 'lead', may: [] });
  }
}
