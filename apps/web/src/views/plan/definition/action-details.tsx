import { parseEffect, printEffect, type Action, type AssetIndex, type Effect } from '@oquel/core';
import type { ReactNode } from 'react';
import { Entry, type Read } from '../../../parts/ui/entry.js';
import { FieldsEntry, NameEntry, NoteEntry, Remove, spoken, Tick, without } from './declared-parts.js';

/** One action: what it takes, and its effects in order, each a short line. */
export function ActionDetails({
  asset,
  action,
  onSet,
}: {
  asset: AssetIndex;
  action: Action;
  onSet: (next: Action | null) => void;
}): ReactNode {
  const { name, params = [], effects = [] } = action;
  const setEffects = (next: Effect[]): void =>
    onSet(without({ ...action, effects: next }, 'effects', next.length === 0));
  return (
    <div className="decl" data-decl={name}>
      <div className="row">
        <NameEntry name={name} taken={asset.actionAt} onRename={(to) => onSet({ ...action, name: to })} />
        <FieldsEntry
          label={`What ${name} takes`}
          shown="takes"
          fields={params}
          onTake={(fields) => onSet(without({ ...action, params: fields }, 'params', fields.length === 0))}
        />
        <Remove what={name} onRemove={() => onSet(null)} />
      </div>
      {[...effects, null].map((effect, i) => (
        <EffectEntry
          key={`${i}/${effect ? printEffect(effect) : ''}`}
          label={effect ? `Effect ${i + 1} of ${name}` : `Another effect of ${name}`}
          effect={effect}
          names={new Set(params.map((p) => p.name))}
          onTake={(next) =>
            setEffects(
              next === null ? effects.filter((_, k) => k !== i) : Object.assign([...effects], { [i]: next }),
            )
          }
        />
      ))}
      <div className="row">
        <Tick
          text="expects a sender"
          on={action.expectsSender === true}
          onSet={(on) => onSet(without({ ...action, expectsSender: on }, 'expectsSender', !on))}
        />
        <Tick
          text="also while asleep"
          on={action.whileAsleep === true}
          onSet={(on) => onSet(without({ ...action, whileAsleep: on }, 'whileAsleep', !on))}
        />
        <NoteEntry
          name={name}
          note={action.note}
          onTake={(note) => onSet(without({ ...action, note }, 'note', note === ''))}
        />
      </div>
    </div>
  );
}

function EffectEntry({
  label,
  effect,
  names,
  onTake,
}: {
  label: string;
  effect: Effect | null;
  /** Of its parameters. */
  names: ReadonlySet<string>;
  onTake: (next: Effect | null) => void;
}): ReactNode {
  return (
    <Entry
      label={label}
      shown={effect ? '–' : '+'}
      width="calc(100% - 20px)"
      placeholder="set open to true, raise onOpened, wake ..."
      value={effect ? printEffect(effect) : ''}
      read={(text): Read<Effect | null> =>
        text.trim() === '' ? { value: null } : spoken(parseEffect(text, names))
      }
      onTake={onTake}
    />
  );
}
