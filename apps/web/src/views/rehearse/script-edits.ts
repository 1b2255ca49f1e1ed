import type { Change, ChangeSet, Project, Rehearsal, Step, StepAction } from '@oquel/core';
import { expectedText } from '@oquel/core';

/** The edit that puts other rehearsals into the project. */
function put(label: string, value: readonly Rehearsal[]): ChangeSet {
  const change: Change = { op: 'set', part: 'rehearsals', value: [...value] };
  return { label, changes: [change] };
}
const of = (project: Project): readonly Rehearsal[] => project.rehearsals ?? [];

/** A name that no rehearsal has yet. */
export function freeName(project: Project, wished = 'New rehearsal'): string {
  const taken = new Set(of(project).map((r) => r.name));
  if (!taken.has(wished)) return wished;
  for (let n = 2; ; n++) if (!taken.has(`${wished} ${n}`)) return `${wished} ${n}`;
}
export function added(project: Project, rehearsal: Rehearsal): ChangeSet {
  return put(`added the rehearsal "${rehearsal.name}"`, [...of(project), rehearsal]);
}
export function removed(project: Project, name: string): ChangeSet {
  return put(
    `removed the rehearsal "${name}"`,
    of(project).filter((r) => r.name !== name),
  );
}
export function changed(project: Project, name: string, label: string, next: Rehearsal): ChangeSet {
  return put(
    label,
    of(project).map((r) => (r.name === name ? next : r)),
  );
}
/** New steps stand after what there is at their time, so that the script reads in order of time. */
export function withSteps(project: Project, rehearsal: Rehearsal, steps: readonly Step[]): ChangeSet {
  const all = [...rehearsal.steps];
  for (const step of steps) {
    const later = all.findIndex((s) => s.at > step.at);
    all.splice(later < 0 ? all.length : later, 0, step);
  }
  const what = steps.length === 1 ? stepText(steps[0]) : `${steps.length} steps of a walk`;
  return changed(project, rehearsal.name, `rehearsal "${rehearsal.name}": ${what}`, {
    ...rehearsal,
    steps: all,
  });
}
export function withoutStep(project: Project, rehearsal: Rehearsal, i: number): ChangeSet {
  const steps = rehearsal.steps.filter((_, k) => k !== i);
  const label = `rehearsal "${rehearsal.name}" without: ${stepText(rehearsal.steps[i])}`;
  return changed(project, rehearsal.name, label, { ...rehearsal, steps });
}
export function stepMovedTo(project: Project, rehearsal: Rehearsal, i: number, at: number): ChangeSet {
  const steps = rehearsal.steps.map((s, k) => (k === i ? { ...s, at } : s));
  const label = `rehearsal "${rehearsal.name}": at ${at} s, ${stepText(rehearsal.steps[i])}`;
  return changed(project, rehearsal.name, label, { ...rehearsal, steps });
}

/** Another step in the place of one, at the same time. */
export function stepReplaced(
  project: Project,
  rehearsal: Rehearsal,
  i: number,
  action: StepAction,
): ChangeSet {
  const next = { at: rehearsal.steps[i].at, ...action };
  const steps = rehearsal.steps.map((s, k) => (k === i ? next : s));
  const label = `rehearsal "${rehearsal.name}": changed to ${stepText(next)}`;
  return changed(project, rehearsal.name, label, { ...rehearsal, steps });
}

/** A step as a sentence, without its time. */
export function stepText(step: Step): string {
  if ('raise' in step) {
    const { at, event, payload, activator, by } = step.raise;
    const fields = Object.entries(payload ?? {}).map(([k, v]) => `${k} = ${JSON.stringify(v)}`);
    return [
      `${at} raises ${event}`,
      fields.length > 0 ? `(${fields.join(', ')})` : '',
      activator ? `for ${activator}` : '',
      by ? `by ${by}` : '',
    ]
      .filter(Boolean)
      .join(' ');
  }
  if ('publish' in step) {
    const { channel, key, payload } = step.publish;
    const fields = Object.entries(payload ?? {}).map(([k, v]) => `${k} = ${JSON.stringify(v)}`);
    const carried = fields.length > 0 ? ` (${fields.join(', ')})` : '';
    return `publish to ${channel}${key === undefined ? '' : ` [${JSON.stringify(key)}]`}${carried}`;
  }
  if ('expect' in step) return `expect ${step.expect.at} ${expectedText(step.expect)}`;
  return step.pause ? 'the game pauses' : 'the game resumes';
}
