import { memo, type KeyboardEvent, type ReactNode } from 'react';
import type { PlacedLabel } from './labels.js';
import { MarkShape, REACH } from './mark-shape.js';
import type { Thing } from './thing.js';

/** How a thing stands out now. */
export interface ThingStyle {
  /** The sender that is being wired. */
  chosen?: boolean;
  /** A candidate of the finder. */
  lit?: boolean;
  /** Chosen as a receiver. */
  picked?: boolean;
  faded?: boolean;
  /** The worst of the faults that are reported at it. */
  fault?: 'error' | 'warning' | 'info';
  /** It is other than its prefab: something is off or overridden in it. */
  differs?: boolean;
  /** How many of the bindings on it rehearsals have used; absent while none have run. */
  covered?: 'all' | 'some' | 'none';
  /** Places in the running order of the event shown. */
  order?: readonly number[];
  /** For each of these what it asks before it acts; empty for nothing. */
  asks?: readonly string[];
}

interface Props {
  thing: Thing;
  x: number;
  y: number;
  radius: number;
  look: ThingStyle | undefined;
  label: PlacedLabel | undefined;
  /** `add`: besides what is chosen already. */
  onPick: (path: string, add: boolean) => void;
}

/** One thing: a mark by kind with the letters of its asset, its label, and where it stands in the running order. */
export const PlanThing = memo(function PlanThing({
  thing,
  x,
  y,
  radius,
  look = {},
  label,
  onPick,
}: Props): ReactNode {
  const classes = ['thing', thing.asleep ? 'asleep' : ''];
  for (const name of ['chosen', 'lit', 'picked', 'faded'] as const) if (look[name]) classes.push(name);
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key !== 'Enter' && e.key !== ' ') return;
    e.preventDefault();
    onPick(thing.path, e.shiftKey);
  };
  const name = [
    thing.label,
    thing.asset,
    thing.asleep ? 'asleep' : '',
    thing.entry ? 'entry' : '',
    look.differs ? 'differs' : '',
    look.covered ? COVERED[look.covered] : '',
    ...(look.order ?? []).map((n, i) => (look.asks?.[i] ? `${n} ${look.asks[i]}` : '')),
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <g
      className={classes.filter(Boolean).join(' ')}
      data-path={thing.path}
      onClick={(e) => onPick(thing.path, e.shiftKey || e.ctrlKey || e.metaKey)}
    >
      <title>{name}</title>
      {thing.entry && (
        <path className="entrymark" d={`M${x - radius - 6} ${y + radius + 5}h${2 * radius + 12}`} />
      )}
      {thing.kind === 'widget' ? (
        <Slip x={x} y={y} r={radius} />
      ) : (
        <MarkShape mark={thing.mark} x={x} y={y} r={radius} />
      )}
      {radius > 9 && (
        <text className="tag" aria-hidden="true" x={x} y={y + 4}>
          {thing.letters}
        </text>
      )}
      {label && (
        <text className="label" aria-hidden="true" x={label.x} y={label.y} textAnchor={label.anchor}>
          {thing.label}
          {label.more > 0 && <tspan className="more"> +{label.more}</tspan>}
        </text>
      )}
      {look.fault && (
        <path
          className={`faultmark ${look.fault}`}
          aria-hidden="true"
          d={faultPath(look.fault, x + radius - 1, y - radius + 1)}
        />
      )}
      {look.differs && (
        <path
          className="differmark"
          aria-hidden="true"
          d={`M${x - radius * 0.6} ${y + radius - 2}l${radius * 1.2} 0`}
        />
      )}
      {look.covered && (
        <path
          className={`coverslip ${look.covered}`}
          aria-hidden="true"
          d={`M${x - radius - 3} ${y + radius - 7}h5v8h-5z`}
        />
      )}
      {look.order?.map((n, i) => (
        <g key={n} aria-hidden="true">
          <circle
            className={look.asks?.[i] ? 'order asking' : 'order'}
            cx={x - radius + 1 - i * 13}
            cy={y - radius + 1}
            r={7.5}
          />
          <text
            className={look.asks?.[i] ? 'ordertext asking' : 'ordertext'}
            x={x - radius + 1 - i * 13}
            y={y - radius + 4.6}
          >
            {n}
          </text>
        </g>
      ))}
      {/* What is pressed is a shape of its own, so that its name is what it says and not what is drawn around it. */}
      <circle
        className="hit"
        cx={x}
        cy={y}
        r={Math.max(radius + 2, radius * (REACH[thing.mark] ?? 1))}
        role="button"
        tabIndex={look.chosen ? 0 : -1}
        aria-label={name}
        aria-pressed={look.chosen === true || look.picked === true}
        onKeyDown={onKeyDown}
      />
    </g>
  );
}, looksAlike);

const COVERED = { all: 'wiring used', some: 'wiring used in part', none: 'wiring not used' } as const;

/** A plan has thousands of things, and most of them look as they did; objects are made anew with every edit. */
function looksAlike(a: Props, b: Props): boolean {
  return (
    a.x === b.x &&
    a.y === b.y &&
    a.radius === b.radius &&
    a.onPick === b.onPick &&
    sameFields(a.label, b.label) &&
    sameFields(a.look, b.look) &&
    (a.thing === b.thing || DRAWN.every((k) => a.thing[k] === b.thing[k]))
  );
}
const DRAWN = ['path', 'label', 'asset', 'kind', 'entry', 'asleep', 'mark', 'letters'] as const;
function sameFields<T extends object>(a: T | undefined, b: T | undefined): boolean {
  if (a === b) return true;
  const [x, y] = [a ?? {}, b ?? {}] as [Record<string, unknown>, Record<string, unknown>];
  for (const k of new Set([...Object.keys(x), ...Object.keys(y)])) {
    if (x[k] !== y[k] && !(Array.isArray(x[k]) && Array.isArray(y[k]) && x[k].join() === y[k].join()))
      return false;
  }
  return true;
}

/** The marks of severity, small: a cross, a lozenge, a bar. */
function faultPath(severity: 'error' | 'warning' | 'info', x: number, y: number): string {
  if (severity === 'error') return `M${x - 4} ${y - 4}l8 8m0 -8l-8 8`;
  if (severity === 'warning') return `M${x} ${y - 5}l5 5l-5 5l-5 -5z`;
  return `M${x - 5} ${y}h10`;
}

/** Widgets are slips with a folded corner. */
function Slip({ x, y, r }: { x: number; y: number; r: number }): ReactNode {
  const [w, h, fold] = [r * 1.15, r * 0.9, r * 0.55];
  const d = `M${x - w} ${y - h}h${2 * w - fold}l${fold} ${fold}v${2 * h - fold}h${-2 * w}z`;
  return <path className="shape" d={d} />;
}
