import type { Change } from '@oquel/core';
import { ProblemError } from '../http/problem.js';
import type { HistoryStep, LoggedEdit } from '../projects/edit.log.js';

/** Somebody has changed the same: both sides. */
export function stale(theirs: readonly LoggedEdit[], yours: readonly Change[]): ProblemError {
  const last = theirs[theirs.length - 1];
  return new ProblemError(
    409,
    'stale-edit',
    'Somebody else changed the same thing',
    `${last.who} has meanwhile done this: ${last.label}; your edit was not stored`,
    { theirs, yours },
  );
}
export function dependedOn(label: string, later: readonly LoggedEdit[]): ProblemError {
  const named = later.slice(0, 3).map((e) => `"${e.label}" by ${e.who}`);
  const more = later.length > 3 ? ` and ${later.length - 3} more` : '';
  return new ProblemError(
    409,
    'depended-on',
    'Later edits touch the same',
    `"${label}" cannot be undone alone: ${named.join(', ')}${more} came after it and touched the same`,
    { later: later.map(({ version, label: l, who }) => ({ version, label: l, who })) },
  );
}
export function notInForce(version: number): ProblemError {
  return new ProblemError(
    409,
    'not-in-force',
    'Nothing to undo',
    `there is no edit ${version} that is in force; it may have been undone`,
  );
}
export function nothingTo(way: 'undo' | 'redo'): ProblemError {
  return new ProblemError(409, `nothing-to-${way}`, `Nothing to ${way}`, `there is no edit to ${way}`);
}
/** Another edit has come to be the next one. */
export function notNext(way: 'undo' | 'redo', next: HistoryStep): ProblemError {
  return new ProblemError(
    409,
    'not-next',
    `Another edit is the next to ${way}`,
    `"${next.label}" is what ${way} would take now; look again`,
    { next },
  );
}
export function changedMeanwhile(base: number, version: number): ProblemError {
  return new ProblemError(
    409,
    'changed-meanwhile',
    'The project has changed meanwhile',
    `this was looked at against version ${base}, and the project is at ${version}; look again`,
    { version },
  );
}
export function unknownVersion(base: number, version: number): ProblemError {
  return new ProblemError(
    409,
    'unknown-version',
    'Unknown version',
    base > version
      ? `the edit is made against version ${base}, but the project is at ${version}; open it again`
      : `the edit is made against version ${base}, and the history no longer goes back so far; open the project again`,
    { version },
  );
}
