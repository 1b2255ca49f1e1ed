import { ApiProblem, Unreachable } from '../../api/problem.js';

/** What an answer that is no success means for the entry that was sent. */
export type Refusal =
  /** Sent again later: nobody has said that it cannot be done. */
  | { kind: 'wait'; words: string; /** The server itself failed at this very entry. */ failed: boolean }
  /** Nothing is to be done: said, and over. */
  | { kind: 'said'; words: string }
  /** Somebody changed the same. */
  | { kind: 'met'; words: string; theirs: unknown }
  /** It cannot be done as things are: kept until it is tried again or dropped. */
  | { kind: 'aside'; words: string };

/** Refusals that the server says of requests which come to nothing. */
const SAID = [
  'nothing-to-undo',
  'nothing-to-redo',
  'not-next',
  'depended-on',
  'not-in-force',
  'no-difference',
  'changed-meanwhile',
];
/** Refusals of what was sent. Everything else, from whomever it comes, ends no edit. */
const ENDS = [
  'bad-request',
  'bad-json',
  'bad-text',
  'broken-document',
  'edit-no-asset',
  'edit-no-item',
  'edit-id-taken',
  'edit-broken-item',
  'no-build',
  'no-project',
  'not-allowed',
  'project-too-large',
  'too-large',
  'unknown-version',
];

/** Only a refusal that the server says by its problem type ends an edit. */
export function refusalOf(error: unknown): Refusal {
  if (error instanceof ApiProblem) {
    const words = error.message;
    if (error.is('stale-edit')) return { kind: 'met', words, theirs: error.body.theirs };
    if (SAID.some((type) => error.is(type))) return { kind: 'said', words };
    if (ENDS.some((type) => error.is(type))) return { kind: 'aside', words };
    return { kind: 'wait', words, failed: error.is('internal') };
  }
  if (error instanceof Unreachable) return { kind: 'wait', words: error.message, failed: false };
  return { kind: 'wait', words: error instanceof Error ? error.message : String(error), failed: true };
}
