import { printKey, type SightLine } from '@oquel/core';
import type { ReactNode } from 'react';

/** What is drawn of the wiring over a plan. */
export interface Sights {
  lines: readonly SightLine[];
  /** All of the plan: pairs with how many bindings run between them, instead of each with its order. */
  isWhole: boolean;
  /** The worst fault of a binding, by its id. */
  faults: ReadonlyMap<string, 'error' | 'warning'>;
}
/** So many lines are drawn, and so many have words; where there are more, the wiring is read in Wire. */
const MOST = 2_000;
const MOST_WORDS = 150;
/** Pixels between what leaves at the same edge. */
const STEP = 15;

interface Props {
  sights: Sights;
  /** Where a thing stands, and the radius of its mark; null where it is not drawn. Pixels. */
  placeOf: (path: string) => { x: number; y: number; r: number } | null;
  width: number;
  height: number;
}
/** All bindings between two things in one direction. */
interface Sight {
  thing: string;
  isIncoming: boolean;
  /** Null where it leads beyond the plan. */
  path: string | null;
  beyond: string;
  lines: SightLine[];
}

/**
 * Straight lines from chosen things to what they reach, and from what reaches them: with the running order, `once`, delay and
 * key. What lies beyond the plan leaves at the nearer edge, with its name.
 */
export function SightLayer({ sights: { lines, isWhole, faults }, placeOf, width, height }: Props): ReactNode {
  const sights = gathered(lines, placeOf)
    // What leaves a whole plan would fill its edges with names.
    .filter((s) => !isWhole || s.path !== null)
    .slice(0, MOST);
  const hasWords = sights.length <= MOST_WORDS;
  const atEdge = new Map<string, number>();
  return (
    <g className="sights" aria-hidden="true">
      {sights.map((sight) => {
        const from = placeOf(sight.thing);
        if (!from) return null;
        const to = sight.path === null ? null : placeOf(sight.path);
        const key = `${sight.thing}/${sight.path ?? sight.beyond}/${sight.isIncoming}`;
        const count = sight.lines.length;
        const text = !hasWords ? '' : !isWhole ? textOf(sight.lines) : count > 1 ? `× ${count}` : '';
        const fault = worstOf(sight.lines, faults);
        const weight = isWhole ? Math.min(5, 0.8 + 0.5 * count) : 1.1;
        if (to) {
          if (to.x === from.x && to.y === from.y) return <Loop key={key} at={from} text={text} />;
          return (
            <Line
              key={key}
              from={from}
              to={to}
              text={text}
              isIncoming={sight.isIncoming}
              fault={fault}
              weight={weight}
            />
          );
        }
        const side = from.x < width / 2 ? 'left' : 'right';
        const nth = atEdge.get(side) ?? 0;
        atEdge.set(side, nth + 1);
        const y = Math.min(height - 6, Math.max(14, from.y - 24 + nth * STEP));
        const x = side === 'left' ? 4 : width - 4;
        return (
          <g key={key}>
            <Line
              from={from}
              to={{ x, y, r: 0 }}
              text=""
              isIncoming={sight.isIncoming}
              fault={fault}
              weight={weight}
            />
            <text
              className="beyond"
              x={x + (side === 'left' ? 4 : -4)}
              y={y - 3}
              textAnchor={side === 'left' ? 'start' : 'end'}
            >
              {`${sight.isIncoming ? '' : `${text} `}${sight.beyond}${sight.isIncoming ? ` ${text}` : ''}`}
            </text>
          </g>
        );
      })}
    </g>
  );
}

function gathered(lines: readonly SightLine[], placeOf: Props['placeOf']): Sight[] {
  const sights = new Map<string, Sight>();
  for (const line of lines) {
    const { end, thing, isIncoming } = line;
    const isHere = 'path' in end && placeOf(end.path) !== null;
    const path = isHere ? end.path : null;
    const beyond = isHere ? '' : 'beyond' in end ? end.beyond : end.path === '.' ? 'itself' : end.path;
    const key = `${thing}\n${isIncoming}\n${path ?? ''}\n${beyond}`;
    const sight = sights.get(key);
    if (sight) sight.lines.push(line);
    else sights.set(key, { thing, isIncoming, path, beyond, lines: [line] });
  }
  return [...sights.values()];
}
/** `1`, `2 once`, `3, 4 after 0.5s`: each with what is out of the usual. */
function textOf(lines: readonly SightLine[]): string {
  return lines
    .map(({ order, binding: { limit, delay, enabled, if: asked }, key }) =>
      [
        String(order),
        limit === 1 ? 'once' : limit === undefined ? '' : `at most ${limit}`,
        delay ? `${delay}s` : '',
        key === undefined ? '' : `[${printKey(key)}]`,
        asked && asked.length > 0 ? 'if' : '',
        enabled === false ? 'off' : '',
      ]
        .filter(Boolean)
        .join(' '),
    )
    .join(', ');
}

function worstOf(lines: readonly SightLine[], faults: Sights['faults']): 'error' | 'warning' | undefined {
  const all = lines.map((l) => faults.get(l.binding.id));
  return all.includes('error') ? 'error' : all.find((f) => f !== undefined);
}

interface Point {
  x: number;
  y: number;
  r: number;
}
function Line({
  from,
  to,
  text,
  isIncoming,
  fault,
  weight,
}: {
  from: Point;
  to: Point;
  text: string;
  isIncoming: boolean;
  fault: 'error' | 'warning' | undefined;
  weight: number;
}): ReactNode {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const far = Math.hypot(dx, dy) || 1;
  const [ux, uy] = [dx / far, dy / far];
  const [x1, y1] = [from.x + ux * (from.r + 3), from.y + uy * (from.r + 3)];
  const [x2, y2] = [to.x - ux * (to.r + 3), to.y - uy * (to.r + 3)];
  // A head at the end that is told to act.
  const [hx, hy, s] = isIncoming ? [x1, y1, -1] : [x2, y2, 1];
  const head = `M${hx} ${hy}L${hx - s * (ux * 8 - uy * 3.2)} ${hy - s * (uy * 8 + ux * 3.2)}L${hx - s * (ux * 8 + uy * 3.2)} ${hy - s * (uy * 8 - ux * 3.2)}Z`;
  return (
    <g className={`sight ${isIncoming ? 'incoming' : ''} ${fault ?? ''}`}>
      <line x1={x1} y1={y1} x2={x2} y2={y2} style={{ strokeWidth: weight }} />
      <path d={head} />
      {text !== '' && (
        <text x={(x1 + x2) / 2} y={(y1 + y2) / 2 - 3} textAnchor="middle">
          {text}
        </text>
      )}
    </g>
  );
}
/** What a thing does to itself. */
function Loop({ at: { x, y, r }, text }: { at: Point; text: string }): ReactNode {
  return (
    <g className="sight">
      <path className="loop" d={`M${x - 4} ${y - r - 2}c-10 -20 18 -20 8 0`} />
      <text x={x} y={y - r - 20} textAnchor="middle">
        {text}
      </text>
    </g>
  );
}
