import { entryText, entryWords, spreadOf, type EntryNotes, type RippleEntry } from '@oquel/core';
import { memo, type ReactNode } from 'react';
import { lineLength } from './geometry.js';

interface Props {
  e: RippleEntry;
  notes: EntryNotes;
  x: number;
  /** Of its top and of its line. */
  top: number;
  y: number;
  width: number;
  height: number;
  chosen: boolean;
  lit: boolean;
  faded: boolean;
  /** Beyond the limit of hops. */
  beyond: boolean;
  /** Its hops on the chain that is lit; empty if it is not on it. */
  hops: string;
  focusable: boolean;
  onChoose: (key: string) => void;
}
/** Pixels of a letter: of names, of actions, of the small lines. */
const LETTER = { name: 7.3, action: 6.9, small: 6.5 };

/** One entry: what leads to it, what it is over a line as thick as it spreads, what it does, and where it returns. */
export const Entry = memo(function Entry(props: Props): ReactNode {
  const { e, notes, x, top, y, width, height, chosen, hops, focusable, onChoose } = props;
  const { by, asks, returns, moreReturns } = notes;
  const classes = ['rippleentry', e.kind];
  for (const [name, on] of Object.entries({
    chosen,
    lit: props.lit,
    faded: props.faded,
    beyond: props.beyond,
    gone: e.gone,
    asleep: e.asleep,
    spawned: e.spawned,
  })) {
    if (on) classes.push(name);
  }
  const length = lineLength(e, width);
  const state = [
    e.spawned ? 'spawned' : '',
    e.asleep ? 'asleep' : '',
    e.outside && e.hop > 0 ? 'from outside' : '',
  ].filter(Boolean);
  const longer = e.longest > e.hop ? `hop ${e.longest} by the longest way` : '';
  const name = [
    entryText(e),
    by,
    asks,
    ...state,
    longer,
    `followed by ${e.fanOut}`,
    ...returns.map((r) => (r.cycle ? `returns to ${r.text}, ${r.class}` : `also leads to ${r.text}`)),
  ]
    .filter(Boolean)
    .join(', ');
  const [who, what] = entryWords(e);
  const room = (letter: number): number => Math.floor((width - 12) / letter);
  const thick = spreadOf(e);
  const small: ReactNode[] = [];
  let low = y + 11 + thick / 2;
  const below = (className: string, key: string, content: ReactNode): void => {
    low += 13;
    small.push(
      <text key={key} className={className} x={x} y={low}>
        {content}
      </text>,
    );
  };
  if (asks !== '') below('asks', 'asks', short(asks, room(LETTER.small)));
  if (longer !== '') below('small', 'longer', `longest way: hop ${e.longest}`);
  for (const r of returns) {
    below(
      r.cycle ? 'small return' : 'small',
      r.key,
      <>
        <tspan className={r.cycle ? 'backsign' : 'alsosign'}>{r.cycle ? '↺' : '→'}</tspan>{' '}
        {short(r.text, room(LETTER.small) - 3 - (r.cycle ? r.class.length + 2 : 0))}
        {r.cycle && `, ${r.class}`}
      </>,
    );
  }
  if (moreReturns > 0) below('small', 'more', `and ${moreReturns} more`);
  return (
    <g
      className={classes.join(' ')}
      data-entry={e.key}
      role="button"
      tabIndex={focusable ? 0 : -1}
      aria-pressed={chosen}
      onClick={() => onChoose(e.key)}
      onKeyDown={(k) => {
        if (k.key !== 'Enter' && k.key !== ' ') return;
        k.preventDefault();
        onChoose(e.key);
      }}
    >
      {/* Its name too: what stands below is that in short. */}
      <title>{name}</title>
      <rect className="hit" x={x - 5} y={top + 1} width={width - 6} height={height - 3} />
      <line className="spread" x1={x} x2={x + length} y1={y} y2={y} strokeWidth={thick} />
      {by !== '' && (
        <text className="small by" x={x} y={y - 19 - thick / 2}>
          {short(by, room(LETTER.small))}
        </text>
      )}
      {e.kind === 'cycle' && (
        <path className="cyclemark" d={`M${x + length + 5} ${y - 7}a7 7 0 1 1 -1 11m1 -11l5 -1m-5 1l1 5`} />
      )}
      <text x={x} y={y - 4 - thick / 2}>
        <tspan className="who">{short(who, room(LETTER.name))}</tspan>
      </text>
      <text className="what" x={x} y={y + 11 + thick / 2}>
        {hops !== '' && <tspan className="nth">{hops} </tspan>}
        {short(what, room(LETTER.action) - (hops === '' ? 0 : hops.length + 1))}
      </text>
      {small}
      {e.count > 1 && (
        <text className="times" x={x + length + 3} y={y - 6}>
          × {e.count}
        </text>
      )}
      {state.length > 0 && (
        <text className="state" x={x + length + 3} y={y + 13}>
          {e.spawned ? 'new' : e.asleep ? 'asleep' : 'outside'}
        </text>
      )}
    </g>
  );
});

function short(text: string, room: number): string {
  return text.length <= room ? text : `${text.slice(0, Math.max(1, room - 1))}…`;
}
