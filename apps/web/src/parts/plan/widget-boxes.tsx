import './widget-boxes.css';
import type { ProjectIndex } from '@oquel/core';
import type { CSSProperties, ReactNode } from 'react';
import { SeverityMark, SEVERITY_WORD } from '../ui/severity-mark.js';
import { boxesOf, type Box } from './boxes.js';
import type { ThingStyle } from './plan-thing.js';
import type { Thing } from './thing.js';

interface Props {
  label: string;
  index: ProjectIndex;
  /** The widget itself (path `.`) and all that is nested in it, each after what contains it. */
  things: readonly Thing[];
  thingStyles: ReadonlyMap<string, ThingStyle>;
  onPick: (path: string, add: boolean) => void;
}
/** A widget as boxes within boxes, each with what it says and does: a widget has no metres, only parts. */
export function WidgetBoxes({ label, index, things, thingStyles, onPick }: Props): ReactNode {
  return (
    <div className="partboxes" role="group" aria-label={label}>
      {boxesOf(things).map((box) => (
        <BoxOf key={box.thing.path} box={box} index={index} thingStyles={thingStyles} onPick={onPick} />
      ))}
    </div>
  );
}

function BoxOf({
  box: { thing, inside, leaves },
  index,
  thingStyles,
  onPick,
}: { box: Box } & Pick<Props, 'index' | 'thingStyles' | 'onPick'>): ReactNode {
  const look = thingStyles.get(thing.path) ?? {};
  const asset = index.assets[index.assetAt.get(thing.asset) ?? -1];
  const classes = ['partbox', thing.asleep ? 'asleep' : ''];
  for (const name of ['chosen', 'lit', 'picked', 'faded'] as const) if (look[name]) classes.push(name);
  const says = asset?.events.map((e) => e.name) ?? [];
  const does = asset?.actions.map((a) => a.name) ?? [];
  const name = thing.path === '.' ? thing.asset : thing.label.split('/').at(-1);
  return (
    <div className={classes.filter(Boolean).join(' ')} style={{ '--leaves': leaves } as CSSProperties}>
      <button
        type="button"
        className="plain hit"
        data-path={thing.path}
        aria-pressed={look.chosen === true || look.picked === true}
        aria-label={`${thing.label}, ${thing.asset}${thing.asleep ? ', asleep' : ''}`}
        onClick={(e) => onPick(thing.path, e.shiftKey || e.ctrlKey || e.metaKey)}
      >
        <span className="head">
          <b className="mono">{name}</b>
          {thing.path !== '.' && <span className="soft">{thing.asset}</span>}
          {look.order?.map((n) => (
            <span className="ordermark" key={n} aria-hidden="true">
              {n}
            </span>
          ))}
          {look.fault && <SeverityMark severity={look.fault} label={SEVERITY_WORD[look.fault]} />}
        </span>
        {says.length > 0 && <span className="part">events: {says.join(', ')}</span>}
        {does.length > 0 && <span className="part">actions: {does.join(', ')}</span>}
      </button>
      {inside.length > 0 && (
        <div className="inside">
          {inside.map((b) => (
            <BoxOf key={b.thing.path} box={b} index={index} thingStyles={thingStyles} onPick={onPick} />
          ))}
        </div>
      )}
    </div>
  );
}
