import type { AssetIndex } from '@oquel/core';
import type { ReactNode } from 'react';
import type { How, Which } from './draft.js';

/** Which instances `every …` takes. */
export function WhichFields({
  asset,
  which,
  fault,
  onChange,
}: {
  asset: AssetIndex;
  which: Which;
  fault: string | undefined;
  onChange: (which: Which) => void;
}): ReactNode {
  const { match, equals, within, first, spawned } = which;
  const keyed = match !== '' && match !== 'all';
  return (
    <div className="row">
      <span className="lead">Which</span>
      <select
        className="line"
        aria-label="Which are selected"
        value={match}
        onChange={(e) => onChange({ ...which, match: e.target.value })}
      >
        <option value="">any</option>
        <option value="all">all, as intended</option>
        {asset.properties.map((p) => (
          <option key={p.name} value={p.name}>
            {p.name} ={p.isKey ? ' (key)' : ''}
          </option>
        ))}
        {keyed && !asset.propertyAt.has(match) && <option value={match}>{match} = (not there)</option>}
      </select>
      {keyed && (
        <input
          className="line code"
          style={{ width: 90 }}
          aria-label={`${match} is equal to`}
          aria-invalid={fault !== undefined}
          placeholder="@line or value"
          data-param="equals"
          value={equals}
          onChange={(e) => onChange({ ...which, equals: e.target.value })}
        />
      )}
      <select
        className="line"
        aria-label="Where they are looked for"
        value={within}
        onChange={(e) => onChange({ ...which, within: e.target.value as Which['within'] })}
      >
        <option value="asset">in this asset</option>
        <option value="project">in all scenes</option>
      </select>
      <Tick text="first only" on={first} onSet={(on) => onChange({ ...which, first: on })} />
      <Tick text="spawned too" on={spawned} onSet={(on) => onChange({ ...which, spawned: on })} />
    </div>
  );
}

/** What else can be said of a binding: muted, wired in code, when it takes hold and what it lets go, and a note. */
export function HowFields({ how, onChange }: { how: How; onChange: (how: How) => void }): ReactNode {
  return (
    <div className="row">
      <span className="lead">Also</span>
      <Tick text="off" on={how.off} onSet={(off) => onChange({ ...how, off })} />
      <Tick text="in code" on={how.code} onSet={(code) => onChange({ ...how, code })} />
      {how.code && (
        <>
          <select
            className="line"
            aria-label="When the code binds it"
            value={how.bind}
            onChange={(e) => onChange({ ...how, bind: e.target.value as How['bind'] })}
          >
            <option value="load">bound at load</option>
            <option value="start">bound at start</option>
          </select>
          <select
            className="line"
            aria-label="What the code releases at its end"
            value={how.release}
            onChange={(e) => onChange({ ...how, release: e.target.value as How['release'] })}
          >
            <option value="own">releases its own</option>
            <option value="all">releases all</option>
            <option value="never">releases never</option>
          </select>
        </>
      )}
      <input
        className="line"
        style={{ flex: 1, minWidth: 120 }}
        aria-label="Note"
        placeholder="note"
        value={how.note}
        onChange={(e) => onChange({ ...how, note: e.target.value })}
      />
    </div>
  );
}

function Tick({ text, on, onSet }: { text: string; on: boolean; onSet: (on: boolean) => void }): ReactNode {
  return (
    <button type="button" className="tick" aria-pressed={on} onClick={() => onSet(!on)}>
      {text}
    </button>
  );
}
