import type { Problem } from '@oquel/core';
import type { ProblemType } from './problem-types.js';

export interface ProblemBody {
  type: string;
  title: string;
  status: number;
  detail: string;
  [more: string]: unknown;
}
const URN = 'urn:oquel:problem:';

/** An error as RFC 9457 has it; `type` is stable, the rest is for people and programs that know the type. */
export class ProblemError extends Error {
  override readonly name = 'ProblemError';
  constructor(
    readonly status: number,
    readonly type: ProblemType,
    readonly title: string,
    readonly detail: string,
    readonly more: Readonly<Record<string, unknown>> = {},
  ) {
    super(detail);
  }
  body(): ProblemBody {
    const { type, title, status, detail } = this;
    return { type: `${URN}${type}`, title, status, detail, ...this.more };
  }
}
/** A problem that another thread has reported. */
export function problemFrom({ type, title, status, detail, ...more }: ProblemBody): ProblemError {
  return new ProblemError(status, type.slice(URN.length) as ProblemType, title, detail, more);
}

export function noSuchProject(): ProblemError {
  return new ProblemError(404, 'no-project', 'No such project', 'there is no project of that id');
}
export function projectDeleted(): ProblemError {
  const detail = 'the project was deleted; it can be restored from the list of projects';
  return new ProblemError(410, 'project-deleted', 'The project was deleted', detail);
}
export function noSuchStream(): ProblemError {
  return new ProblemError(404, 'no-stream', 'No such stream', 'the stream has ended; open another one');
}
export function brokenDocument(problems: readonly Problem[], what: string): ProblemError {
  const [first] = problems;
  const where = first.pointer === '' ? 'at the top' : `at ${first.pointer}`;
  const others = problems.length > 1 ? ` (and ${problems.length - 1} more)` : '';
  return new ProblemError(
    422,
    'broken-document',
    `The ${what} is not valid`,
    `expected ${first.expected}, found ${first.found} ${where}${others}; nothing was stored`,
    { problems },
  );
}
export function tooLarge(limit: number): ProblemError {
  const mb = Math.round(limit / 1024 / 1024);
  return new ProblemError(
    413,
    'too-large',
    'Too large',
    `the request is larger than ${mb} MiB; nothing was stored`,
    {
      limit,
    },
  );
}
export function badRequest(detail: string, more: Record<string, unknown> = {}): ProblemError {
  return new ProblemError(400, 'bad-request', 'Bad request', detail, more);
}
/** The server has as much to do as it takes on. */
export function busy(why: string): ProblemError {
  return new ProblemError(503, 'busy', 'The server is busy', `${why}; try again in a moment`);
}
/** No more is taken on. */
export function stopping(): ProblemError {
  const detail = 'the server is being stopped; try again in a moment';
  return new ProblemError(503, 'stopping', 'The server stops', detail);
}
export function diskFull(): ProblemError {
  const detail =
    'the disk that holds the database has no space left; this was not stored: free some space there and try again';
  return new ProblemError(503, 'disk-full', "The database's disk is full", detail);
}
export function databaseDown(): ProblemError {
  return new ProblemError(
    503,
    'database-down',
    'The database does not answer',
    'it is not known whether this was stored; try again in a moment, with the same key it is done once',
  );
}
export function tooMany(what: string, most: number): ProblemError {
  return new ProblemError(
    409,
    'too-many',
    `Too many ${what}`,
    `there may be ${most} ${what}; remove some first`,
  );
}
