import type { KeyboardEvent, ReactNode } from 'react';
import type { PlacedLabel } from './labels.js';
import { monogram } from './monogram.js';
import type { Thing } from './thing.js';

/** How a thing stands out now. */
export interface ThingLook {
  /** The sender that is being wired. */
  chosen?: boolean;
  /** A candidate of the finder. */
  lit?: boolean;
  /** Chosen as a receiver. */
  picked?: boolean;
  faded?: boolean;
  /** Places in the running order of the event shown. */
  order?: readonly number[];
}

interface Props {
  thing: Thing;
  screen: [number, number];
  radius: number;
  look: ThingLook | undefined;
  label: PlacedLabel | undefined;
  onPick: (path: string) => void;
}

/** One thing: a mark by kind with the letters of its asset, its label, and where it stands in the running order. */
export function PlanThing({ thing, screen: [x, y], radius, look = {}, label, onPick }: Props): ReactNode {
  const classes = ['thing', thing.asleep ? 'asleep' : ''];
  for (const name of ['chosen', 'lit', 'picked', 'faded'] as const) if (look[name]) classes.push(name);
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key !== 'Enter' && e.key !== ' ') return;
    e.preventDefault();
    onPick(thing.path);
  };
  const name = [thing.label, thing.asset, thing.asleep ? 'asleep' : '', thing.entry ? 'entry' : '']
    .filter(Boolean)
    .join(', ');
  return (
    <g
      className={classes.filter(Boolean).join(' ')}
      data-path={thing.path}
      onClick={() => onPick(thing.path)}
    >
      <title>{name}</title>
      {thing.entry && (
        <path className="entrymark" d={`M${x - radius - 6} ${y + radius + 5}h${2 * radius + 12}`} />
      )}
      <Mark kind={thing.kind} x={x} y={y} r={radius} />
      {radius > 9 && (
        <text className="tag" aria-hidden="true" x={x} y={y + 4}>
          {monogram(thing.asset)}
        </text>
      )}
      {label && (
        <text className="label" aria-hidden="true" x={label.x} y={label.y} textAnchor={label.anchor}>
          {thing.label}
        </text>
      )}
      {look.order?.map((n, i) => (
        <g key={n} aria-hidden="true">
          <circle className="order" cx={x - radius + 1 - i * 13} cy={y - radius + 1} r={7.5} />
          <text className="ordertext" x={x - radius + 1 - i * 13} y={y - radius + 4.6}>
            {n}
          </text>
        </g>
      ))}
      {/* What is pressed is a shape of its own, so that its name is what it says and not what is drawn around it. */}
      <circle
        className="hit"
        cx={x}
        cy={y}
        r={radius + 2}
        role="button"
        tabIndex={look.chosen ? 0 : -1}
        aria-label={name}
        aria-pressed={look.chosen === true || look.picked === true}
        onKeyDown={onKeyDown}
      />
    </g>
  );
}

/** Prefabs are eight-sided plates, widgets slips with a folded corner. */
function Mark({ kind, x, y, r }: { kind: Thing['kind']; x: number; y: number; r: number }): ReactNode {
  if (kind === 'widget') {
    const [w, h, fold] = [r * 1.15, r * 0.9, r * 0.55];
    const d = `M${x - w} ${y - h}h${2 * w - fold}l${fold} ${fold}v${2 * h - fold}h${-2 * w}z`;
    return <path className="shape" d={d} />;
  }
  const c = r * 0.42;
  const d = `M${x - c} ${y - r}H${x + c}L${x + r} ${y - c}V${y + c}L${x + c} ${y + r}H${x - c}L${x - r} ${y + c}V${y - c}Z`;
  return <path className="shape" d={d} />;
}
