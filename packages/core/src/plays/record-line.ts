import { LIMITS } from '../limits.js';
import type { Value } from '../project/types.js';
import { own } from '../util/own.js';

/** A record of a game, as far as it is judged. Times in microseconds. */
export interface PlayRecord {
  kind: string;
  t?: number;
  n?: number;
  cause?: number;
  at?: string;
  event?: string;
  action?: string;
  channel?: string;
  owner?: string;
  binding?: string;
  key?: Value;
  payload?: Record<string, Value>;
  args?: Record<string, Value>;
  by?: string;
  is?: boolean;
  property?: string;
  to?: Value;
  asset?: string;
  /** Of a `session`: the hash of the wiring that it ran. */
  wiring?: string;
}
export interface PlayLine {
  /** Empty where the line does not say which session it is of. */
  session: string;
  record: PlayRecord;
}

/** What each kind of record must name; other kinds are taken, and left alone. */
const NAMES: Readonly<Record<string, readonly (keyof PlayRecord)[]>> = {
  raise: ['at', 'event'],
  performed: ['at', 'action'],
  publication: ['channel'],
  change: ['at', 'property'],
  born: ['at'],
  gone: ['at'],
  wake: ['at'],
  sleep: ['at'],
};
const STRINGS: readonly string[] = [
  'at',
  'event',
  'action',
  'channel',
  'owner',
  'binding',
  'by',
  'property',
  'asset',
  'wiring',
  'session',
];

/**
 * One line of a trace: a record, or a CloudEvents 1.0 event whose `data` is one and whose `source` is the session. Null for
 * an empty line. Returns what is wrong as a text. Linear in the line.
 */
export function readPlayLine(line: string): PlayLine | null | string {
  if (line.trim() === '') return null;
  if (line.length > LIMITS.plays.line) return `is longer than ${LIMITS.plays.line} characters`;
  let read: unknown;
  try {
    read = JSON.parse(line);
  } catch (error) {
    return `is not JSON: ${(error as Error).message}`;
  }
  if (!isObject(read)) return 'is not an object';
  if (!Object.hasOwn(read, 'specversion')) return recordOf(read, '');
  if (read.specversion !== '1.0') return `is a CloudEvents event of another version than 1.0`;
  if (typeof read.source !== 'string' || read.source === '') return 'is a CloudEvents event without a source';
  if (!isObject(read.data)) return 'is a CloudEvents event whose data is no record';
  return recordOf(read.data, read.source);
}

function recordOf(read: Record<string, unknown>, session: string): PlayLine | string {
  if (typeof read.kind !== 'string') return 'has no kind';
  for (const name of own(NAMES, read.kind) ?? []) {
    if (typeof own(read, name) !== 'string') return `is a ${read.kind} without ${name}`;
  }
  for (const name of STRINGS) {
    if (Object.hasOwn(read, name) && typeof own(read, name) !== 'string')
      return `has a ${name} that is no text`;
  }
  if (
    Object.hasOwn(read, 't') &&
    !(typeof read.t === 'number' && read.t >= 0 && Number.isSafeInteger(read.t))
  )
    return 'has a t that is not whole microseconds';
  for (const name of ['payload', 'args'] as const) {
    if (Object.hasOwn(read, name) && !isObject(own(read, name))) return `has ${name} that are no object`;
  }
  const named = typeof read.session === 'string' ? read.session : '';
  return { session: session === '' ? named : session, record: read as unknown as PlayRecord };
}
function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
