import { whyNot, type StateChange, type TraceRecord, type Vec2 } from '@oquel/core';
import type { ReactNode } from 'react';
import type { PlanSeen } from '../../../parts/plan/plan-drawing.js';
import { toScreen } from '../../../parts/plan/viewport.js';
import { valueText } from '../states-panel.js';
import { clearOfEachOther } from './clear-of-each-other.js';
import { placeOnPlan } from './place-on-plan.js';

/** Microseconds of the game's time for which something stays lit, and in which a delivery runs along its line. */
const LIT = 1_400_000;
const RUN = 450_000;
/** So many of the latest things are lit, and so many things have their values beside them. */
const MOST_LIT = 60;
const MOST_VALUES = 60;
const MOST_LINES = 4;

interface Props {
  plan: PlanSeen;
  scene: string;
  /** Metres, by path. */
  places: ReadonlyMap<string, Vec2>;
  /** In order of time; those after the `last` of them have not come about yet. */
  records: readonly TraceRecord[];
  last: number;
  byNumber: (n: number) => TraceRecord | undefined;
  /** Microseconds of the moment shown. */
  time: number;
  changes: readonly StateChange[];
}

/** What happens at a moment, where it happens: who raises, what runs along its line and acts, what is refused and lost, and values. */
export function Happenings({
  plan,
  scene,
  places,
  records,
  last,
  byNumber,
  time,
  changes,
}: Props): ReactNode {
  const at = (address: string): [number, number] | null => {
    const place = placeOnPlan(address, scene, places);
    if (!place) return null;
    const [x, y] = toScreen(plan.view, place.at);
    return [x + place.aside[0], y + place.aside[1]];
  };
  return (
    <>
      <Values changes={changes} at={at} plan={plan} />
      {stacked(latest(records, time, last), at).map(({ record, nth }) => (
        <Happening
          key={record.n}
          record={record}
          nth={nth}
          age={time - record.t}
          byNumber={byNumber}
          at={at}
        />
      ))}
    </>
  );
}

/** Records of the last moments before a time, the newest at most so many. */
function latest(records: readonly TraceRecord[], time: number, n: number): TraceRecord[] {
  const found: TraceRecord[] = [];
  for (let i = Math.min(records.length, n) - 1; i >= 0 && found.length < MOST_LIT; i--) {
    if (records[i].t < time - LIT) break;
    found.push(records[i]);
  }
  return found.reverse();
}

type At = (address: string) => [number, number] | null;

/** Things within one another stand at one place: each further word there has a line of its own. */
function stacked(list: readonly TraceRecord[], at: At): { record: TraceRecord; nth: number }[] {
  const words = new Map<string, number>();
  return list.map((record) => {
    const place = 'at' in record ? at(record.at) : null;
    const isAbove = record.kind === 'performed' || record.kind === 'lost' || record.kind === 'refused';
    if (!place || (!isAbove && record.kind !== 'raise')) return { record, nth: 0 };
    const key = `${Math.round(place[0])} ${Math.round(place[1])} ${isAbove}`;
    const nth = words.get(key) ?? 0;
    words.set(key, nth + 1);
    return { record, nth };
  });
}
/** Pixels between the lines of words at one place. */
const WORD = 14;

function Happening({
  record: r,
  nth,
  age,
  byNumber,
  at,
}: {
  record: TraceRecord;
  /** Its place among the words at its place. */
  nth: number;
  age: number;
  byNumber: (n: number) => TraceRecord | undefined;
  at: At;
}): ReactNode {
  if (!('at' in r)) return null;
  const place = at(r.at);
  if (!place) return null;
  const [x, y] = place;
  const opacity = Math.max(0, Math.min(1, 1.4 * (1 - age / LIT)));
  const isNot = r.kind === 'lost' || r.kind === 'refused';
  if (r.kind === 'performed' || isNot) {
    const from = isNot && r.kind === 'refused' ? null : senderOf(byNumber, r, at);
    const part = Math.min(1, age / RUN);
    return (
      <g style={{ opacity }} className={isNot ? 'happening not' : 'happening'}>
        {from && (from[0] !== x || from[1] !== y) && (
          <>
            <path className="sentline" d={`M${from[0]} ${from[1]}L${x} ${y}`} />
            <circle
              className="bead"
              cx={from[0] + (x - from[0]) * part}
              cy={from[1] + (y - from[1]) * part}
              r={4}
            />
          </>
        )}
        <circle className="pulse" cx={x} cy={y} r={16 + 4 * Math.min(1, age / LIT)} />
        {isNot && <path className="notmark" d={`M${x - 6} ${y - 6}l12 12m0 -12l-12 12`} />}
        <text className="happened-word" x={x} y={y - 21 - nth * WORD}>
          {wordOf(r)}
        </text>
      </g>
    );
  }
  if (r.kind === 'raise') {
    return (
      <g style={{ opacity }} className="happening raised">
        <circle className="pulse" cx={x} cy={y} r={14 + 8 * Math.min(1, age / LIT)} />
        <text className="raised-word" x={x - 14} y={y + 24 + nth * WORD}>
          {r.event}
        </text>
      </g>
    );
  }
  if (r.kind !== 'born' && r.kind !== 'gone' && r.kind !== 'wake' && r.kind !== 'sleep') return null;
  return (
    <g style={{ opacity }} className="happening">
      <circle className="pulse dotted" cx={x} cy={y} r={18} />
      <text className="happened-word" x={x} y={y + 30}>
        {STATE_WORDS[r.kind]}
      </text>
    </g>
  );
}
const STATE_WORDS = { born: 'spawned', gone: 'destroyed', wake: 'wakes', sleep: 'goes to sleep' } as const;

function wordOf(r: TraceRecord): string {
  if (r.kind === 'performed') return r.action;
  if (r.kind === 'refused') return `${r.event}: ${whyNot(r)}`;
  if (r.kind !== 'lost') return '';
  return `${'effect' in r ? r.effect : 'action' in r ? r.action : ''}: ${whyNot(r)}`;
}
/** Where what led to a record stands: through a channel, whoever published. */
function senderOf(
  byNumber: (n: number) => TraceRecord | undefined,
  r: TraceRecord,
  at: At,
): [number, number] | null {
  let cause = r.cause;
  for (let hops = 0; cause > 0 && hops < 4; hops++) {
    const before = byNumber(cause);
    if (!before) return null;
    if ('at' in before) return at(before.at);
    cause = before.cause;
  }
  return null;
}

/** What has other values than at first has them beside it. */
function Values({
  changes,
  at,
  plan,
}: {
  changes: readonly { at: string; what: unknown; now: unknown }[];
  at: At;
  plan: PlanSeen;
}): ReactNode {
  const lines = new Map<string, { x: number; y: number; said: string[] }>();
  for (const { at: address, what, now } of changes) {
    if (typeof what !== 'object' || what === null || !('property' in what)) continue;
    const place = at(address);
    if (!place) continue;
    const [x, y] = place;
    if (x < -50 || y < -50 || x > plan.width + 50 || y > plan.height + 50) continue;
    // What is within something else stands at its place, and says which it is.
    const key = `${Math.round(x)} ${Math.round(y)}`;
    let of = lines.get(key);
    if (!of) lines.set(key, (of = { x, y, said: [] }));
    const inner = /\/([^/]+)$/.exec(address);
    of.said.push(`${inner ? `${inner[1]}: ` : ''}${String(what.property)} ${valueText(now as never)}`);
  }
  const groups = [...lines].slice(-MOST_VALUES).map(([key, { x, y, said }]) => {
    const shown =
      said.length > MOST_LINES
        ? [...said.slice(0, MOST_LINES - 1), `and ${said.length - MOST_LINES + 1} more`]
        : said;
    const width = CHAR * shown.reduce((most, line) => Math.max(most, line.length), 0);
    return { key, shown, x: x + 16, y: y + 16, width, height: shown.length * LINE };
  });
  return clearOfEachOther(groups).map(({ key, shown, x, y }) => (
    <text key={key} className="valueline" x={x} y={y}>
      {shown.map((line, i) => (
        <tspan key={line} x={x} dy={i === 0 ? 0 : LINE}>
          {line}
        </tspan>
      ))}
    </text>
  ));
}
/** Pixels of a line of values, and of a letter in it. */
const LINE = 13;
const CHAR = 6.6;
