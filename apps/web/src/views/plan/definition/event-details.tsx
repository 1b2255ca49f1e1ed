import type { AssetIndex, Cause, CauseType, EventDecl } from '@oquel/core';
import type { ReactNode } from 'react';
import { Entry, type Read } from '../../../parts/ui/entry.js';
import { FieldsEntry, NameEntry, NoteEntry, readCount, Remove, Tick, without } from './declared-parts.js';
import { DeliveryRow } from './delivery-row.js';

const CAUSES: Record<CauseType, string> = {
  code: 'by the game’s code',
  raised: 'raised by its own actions',
  'area-enter': 'its area is entered',
  'area-leave': 'its area is left',
  use: 'it is used',
  press: 'it is pressed',
  start: 'it starts',
  destroyed: 'it is destroyed',
  timer: 'a timer runs',
  change: 'a property changes',
};

/** One event: when it is raised, what it carries, how often, who may raise it and who receives it. */
export function EventDetails({
  asset,
  event,
  peers,
  onSet,
}: {
  asset: AssetIndex;
  event: EventDecl;
  /** Whether the project has peers, so that delivery matters. */
  peers: boolean;
  onSet: (next: EventDecl | null) => void;
}): ReactNode {
  const { name, cause, payload = [], limit } = event;
  return (
    <div className="decl" data-decl={name}>
      <div className="row">
        <NameEntry name={name} taken={asset.eventAt} onRename={(to) => onSet({ ...event, name: to })} />
        <select
          className="line"
          aria-label={`When ${name} is raised`}
          value={cause.type}
          onChange={(e) => onSet({ ...event, cause: freshCause(e.target.value as CauseType, asset) })}
        >
          {Object.entries(CAUSES).map(([type, text]) => (
            <option key={type} value={type}>
              {text}
            </option>
          ))}
        </select>
        <CauseDetail asset={asset} event={event} onSet={onSet} />
        <Remove what={name} onRemove={() => onSet(null)} />
      </div>
      <div className="row">
        <FieldsEntry
          label={`What ${name} carries`}
          shown="carries"
          fields={payload}
          onTake={(fields) => onSet(without({ ...event, payload: fields }, 'payload', fields.length === 0))}
        />
        <Entry
          label={`How often ${name} is raised at most`}
          shown="at most"
          width={34}
          value={limit === undefined ? '' : String(limit)}
          read={(text): Read<number | undefined> => readCount(text)}
          onTake={(n) => onSet(n === undefined ? without(event, 'limit', true) : { ...event, limit: n })}
        />
        <Tick
          text="expects a listener"
          on={event.expectsListener === true}
          onSet={(on) => onSet(without({ ...event, expectsListener: on }, 'expectsListener', !on))}
        />
        <Tick
          text="also while paused"
          on={event.raisedInPause === true}
          onSet={(on) => onSet(without({ ...event, raisedInPause: on }, 'raisedInPause', !on))}
        />
      </div>
      {(peers || event.delivery !== undefined) && <DeliveryRow event={event} onSet={onSet} />}
      <div className="row">
        <NoteEntry
          name={name}
          note={event.note}
          onTake={(note) => onSet(without({ ...event, note }, 'note', note === ''))}
        />
      </div>
    </div>
  );
}

function CauseDetail({
  asset,
  event,
  onSet,
}: {
  asset: AssetIndex;
  event: EventDecl;
  onSet: (next: EventDecl) => void;
}): ReactNode {
  const { name, cause } = event;
  if (cause.type === 'timer') {
    return (
      <Entry
        label={`How often the timer of ${name} runs`}
        shown="every"
        unit="s"
        width={50}
        value={String(cause.every)}
        read={(t): Read<number> => (Number(t) > 0 ? { value: Number(t) } : { error: 'seconds' })}
        onTake={(every) => onSet({ ...event, cause: { type: 'timer', every } })}
      />
    );
  }
  if (cause.type === 'change') {
    return (
      <select
        className="line"
        aria-label={`Which property ${name} watches`}
        value={cause.property}
        onChange={(e) => onSet({ ...event, cause: { type: 'change', property: e.target.value } })}
      >
        {!asset.propertyAt.has(cause.property) && <option>{cause.property}</option>}
        {asset.properties.map((p) => (
          <option key={p.name}>{p.name}</option>
        ))}
      </select>
    );
  }
  if (cause.type !== 'area-enter' && cause.type !== 'area-leave' && cause.type !== 'use') return null;
  return (
    <Entry
      label={`Who can raise ${name}`}
      shown="by"
      width={110}
      placeholder="anybody"
      value={cause.activators?.join(', ') ?? ''}
      read={(t) => ({
        value: t
          .split(',')
          .map((w) => w.trim())
          .filter(Boolean),
      })}
      onTake={(list) =>
        onSet({ ...event, cause: list.length > 0 ? { ...cause, activators: list } : { type: cause.type } })
      }
    />
  );
}
function freshCause(type: CauseType, asset: AssetIndex): Cause {
  if (type === 'timer') return { type, every: 1 };
  if (type === 'change') return { type, property: asset.properties[0]?.name ?? '' };
  return { type };
}
