import {
  printFields,
  printGuard,
  printValue,
  type AssetIndex,
  type Declaration,
  type Effect,
} from '@oquel/core';
import type { ReactNode } from 'react';

/** What an action brings about inside its thing, in order; for an event, which actions raise it. */
export function Ways({ asset, declaration }: { asset: AssetIndex; declaration: Declaration }): ReactNode {
  if (declaration.kind === 'property') return null;
  if (declaration.kind === 'action') {
    const { name, params = [], effects = [] } = declaration.value;
    return (
      <Way from={params.length > 0 ? `${name}(${printFields(params)})` : name}>
        {effects.length === 0
          ? [
              <span key="none" className="soft">
                no effects; the game’s code does it
              </span>,
            ]
          : effects.map((e, i) => <Step key={i} asset={asset} effect={e} />)}
      </Way>
    );
  }
  const { name } = declaration.value;
  const raisers = asset.actions.filter((a) => a.effects?.some((e) => 'raise' in e && e.raise === name));
  if (raisers.length === 0) return null;
  return (
    <>
      {raisers.map((a) => (
        <Way key={a.name} from={a.name}>
          {[
            <span key="event" className="step raises">
              {name}
            </span>,
          ]}
        </Way>
      ))}
    </>
  );
}

function Way({ from, children }: { from: string; children: ReactNode[] }): ReactNode {
  return (
    <div className="wayof mono">
      <span className="step from">{from}</span>
      {children.map((step, i) => (
        <span key={i} className="hop">
          <svg width="26" height="10" aria-hidden="true">
            <path d="M1 5h20M16 1l5 4-5 4" fill="none" stroke="currentColor" strokeWidth="1.5" />
          </svg>
          {step}
        </span>
      ))}
    </div>
  );
}

/** One effect: what it sets, raises, wakes or spawns, and under what condition. */
function Step({ asset, effect }: { asset: AssetIndex; effect: Effect }): ReactNode {
  const value = (v: unknown): string =>
    typeof v === 'object' && v !== null && 'param' in v
      ? `$${String(v.param)}`
      : printValue(v as Parameters<typeof printValue>[0]);
  const missing = (there: boolean): string => (there ? '' : ' missing');
  const [kind, text] =
    'set' in effect
      ? [`sets${missing(asset.propertyAt.has(effect.set))}`, `${effect.set} = ${value(effect.to)}`]
      : 'toggle' in effect
        ? [`sets${missing(asset.propertyAt.has(effect.toggle))}`, `${effect.toggle} the other way`]
        : 'add' in effect
          ? [`sets${missing(asset.propertyAt.has(effect.add))}`, `${effect.add} + ${value(effect.by)}`]
          : 'raise' in effect
            ? [
                `raises${missing(asset.eventAt.has(effect.raise))}`,
                `${effect.raise}${effect.delay ? ` after ${effect.delay} s` : ''}`,
              ]
            : 'spawn' in effect
              ? ['spawns', `a new ${effect.spawn}`]
              : ['life', 'wake' in effect ? 'wakes' : 'sleep' in effect ? 'sleeps' : 'is destroyed'];
  return (
    <span className={`step ${kind}`}>
      {text}
      {kind.endsWith('missing') && <span className="fault error"> not declared</span>}
      {effect.when && <span className="soft"> if {printGuard(effect.when)}</span>}
      {effect.everyNth !== undefined && <span className="soft"> every {effect.everyNth} times</span>}
    </span>
  );
}
