import { canonicalJson } from '../project/canonical.js';
import type { Value } from '../project/types.js';
import type { FoundValue, NotRun, TraceRecord, Values, Verdict } from './records.js';
import { wasRun } from './records.js';
import { own } from '../util/own.js';

/** A time of the trace, in microseconds, as seconds: `2.5 s`. */
export function secondsText(t: number): string {
  return `${Number((t / 1e6).toFixed(6))} s`;
}

const REFUSED: Record<Extract<TraceRecord, { kind: 'refused' }>['reason'], string> = {
  dangling: 'it does not exist',
  unloaded: 'its scene is not loaded',
  gone: 'it is gone',
  asleep: 'it is asleep',
  limit: 'it was raised as often as its limit allows',
  filtered: 'its filter does not allow this activator',
  barred: 'this peer is not allowed to raise it',
  paused: 'the game is paused',
};
const STOPPED: Record<Extract<TraceRecord, { kind: 'stopped' }>['reason'], string> = {
  released: 'another owner released all bindings here',
  'not-bound': 'it was bound only after the raise',
  condition: 'its condition does not hold',
  limit: 'its limit is used up',
  empty: 'it selects nothing now',
};
const LOST: Record<Extract<TraceRecord, { kind: 'lost' }>['reason'], string> = {
  unloaded: 'its scene is not loaded',
  gone: 'it is gone',
  asleep: 'it is asleep',
  paused: 'the game is paused, and it does not run during a pause',
  nobody: 'no peer that receives the event has this receiver',
  dangling: 'it does not exist',
  misfit: 'the value is missing or of the wrong type',
};

function foundText({ asked, value }: FoundValue): string {
  return `, because ${asked} is ${value === null ? 'not given' : text(value)}`;
}

/** One record as a sentence, without its time. */
export function recordText(r: TraceRecord): string {
  switch (r.kind) {
    case 'raise':
      return `${r.at} raises ${r.event}${values(r.payload)}${r.by === undefined ? '' : ` by ${r.by}`}`;
    case 'refused':
      return `${r.at} does not raise ${r.event}: ${REFUSED[r.reason]}`;
    case 'stopped':
      return `binding ${r.binding} of ${r.owner} does not trigger: ${STOPPED[r.reason]}${r.found ? foundText(r.found) : ''}`;
    case 'publication':
      return `channel ${r.channel}${r.key === undefined ? '' : ` [${text(r.key)}]`} receives${values(r.payload) || ' an event'}`;
    case 'performed':
      return `${r.at} does ${r.action}${values(r.args)}${r.times > 1 ? `, for the ${nth(r.times)} time` : ''}`;
    case 'lost':
      return lostText(r);
    case 'change':
      return `${r.at}: ${r.property} goes from ${text(r.from)} to ${text(r.to)}`;
    case 'wake':
      return `${r.at} wakes`;
    case 'sleep':
      return `${r.at} goes to sleep`;
    case 'gone':
      return `${r.at} is destroyed, with everything in it`;
    case 'born':
      return `${r.at} is spawned`;
    case 'pause':
      return r.is ? 'the game pauses' : 'the game resumes';
    case 'expect':
      return expectText(r);
    case 'cut':
      return `still pending, due at ${secondsText(r.due)}: ${'event' in r ? `${r.at} ${r.event}` : 'action' in r ? `${r.at} ${r.action}` : `channel ${r.channel}`}`;
    case 'runaway':
      return `${r.why === 'loop' ? 'endless loop within one instant' : 'it never settles'}${cycleText(r.cycle)}`;
  }
}

/** Why something did not come about; empty for what did. */
export function whyNot(r: TraceRecord): string {
  if (r.kind === 'refused') return REFUSED[r.reason];
  if (r.kind === 'stopped') return STOPPED[r.reason];
  return r.kind === 'lost' ? LOST[r.reason] : '';
}

function lostText(r: Extract<TraceRecord, { kind: 'lost' }>): string {
  if ('effect' in r) return `${r.at}: the effect ${r.effect} is lost: ${LOST[r.reason]}`;
  if ('action' in r) return `${r.at} does not do ${r.action}: ${LOST[r.reason]}`;
  return `channel ${r.channel} receives nothing: ${LOST[r.reason]}`;
}

type ExpectRecord = Extract<TraceRecord, { kind: 'expect' }>;
function expectText(r: ExpectRecord): string {
  const said = `${r.at} ${expectedText(r)}`;
  if (r.ok) return `as expected, ${said}`;
  if (r.reason) return `expected: ${said}; ${REFUSED[r.reason]}`;
  return `expected: ${said}; ${gotText(r)}`;
}
/** What an expectation asks: `force is 3`, `is awake`, `has done engage 2 times`. */
export function expectedText(
  r: Partial<Pick<ExpectRecord, 'property' | 'is' | 'asleep' | 'gone' | 'action' | 'times'>>,
): string {
  if (r.property !== undefined) return `has ${r.property} = ${text(r.is!)}`;
  if (r.action !== undefined) return `has done ${r.action} ${r.times} ${r.times === 1 ? 'time' : 'times'}`;
  if (r.asleep !== undefined) return r.asleep ? 'is asleep' : 'is awake';
  return r.gone ? 'is gone' : 'is there';
}
function gotText(r: ExpectRecord): string {
  if (r.property !== undefined) return `it is ${text(r.got!)}`;
  if (r.action !== undefined) return `it was ${text(r.got!)}`;
  if (r.asleep !== undefined) return r.got ? 'it is asleep' : 'it is awake';
  return r.got ? 'it is gone' : 'it is there';
}

export function cycleText(cycle: readonly { action: string; at: string }[]): string {
  if (cycle.length === 0) return '';
  const steps = cycle.map((c) => `${c.at} ${c.action}`);
  return `: ${[...steps, steps[0]].join(' > ')}`;
}

/** What a rehearsal came to, in one line. */
export function verdictText(v: Verdict | NotRun): string {
  if (!wasRun(v)) return `${v.name} was not run: its load set does not exist`;
  const parts = [`${v.held} of ${v.held + v.failed + v.unjudged} expectations hold`];
  if (v.steps > 0)
    parts.push(`${v.steps} ${v.steps === 1 ? 'step names' : 'steps name'} something that does not exist`);
  if (v.runaway) parts.push('it did not settle');
  if (v.cut > 0) parts.push(`${v.cut} still pending at the end`);
  parts.push(
    `${v.deliveries} ${v.deliveries === 1 ? 'delivery' : 'deliveries'}`,
    `ends at ${secondsText(v.end)}`,
  );
  return `${v.name} ${v.pass ? 'passes' : 'FAILS'}: ${parts.join(', ')}`;
}

/** Whether a record is one for which a rehearsal fails. */
export function failsRehearsal(r: TraceRecord): boolean {
  if (r.kind === 'expect') return !r.ok;
  if (r.kind === 'runaway') return true;
  if (r.step === undefined) return false;
  return r.kind === 'lost' || (r.kind === 'refused' && (r.reason === 'dangling' || r.reason === 'unloaded'));
}

function values(of: Values): string {
  const names = Object.keys(of);
  return names.length === 0 ? '' : ` (${names.map((n) => `${n} = ${text(own(of, n)!)}`).join(', ')})`;
}
function text(value: Value): string {
  return canonicalJson(value);
}
function nth(n: number): string {
  const rest = n % 100;
  const end = rest >= 11 && rest <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th');
  return `${n}${end}`;
}
