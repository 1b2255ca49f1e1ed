import './declarations.css';
import type { AssetIndex, Change, ChangeSet, Finding, ProjectIndex } from '@oquel/core';
import type { ReactNode } from 'react';
import { ActionLine } from './action-line.js';
import { AssetLine } from './asset-line.js';
import {
  declaring,
  freeName,
  renamingDeclared,
  type Declarations,
  type Declared,
} from './declaration-edits.js';
import { EventLine } from './event-line.js';
import { PropertyLine } from './property-line.js';

interface Props {
  index: ProjectIndex;
  findings: readonly Finding[];
  asset: AssetIndex;
  /** An edit of the declaration of that name. */
  onChange: (kind: Declared, name: string, changeSet: ChangeSet) => void;
  /** An edit of what the asset itself is. */
  onEdit: (changeSet: ChangeSet) => void;
  onDrop: () => void;
}

/** What an asset says, does, has and is, side by side; every line is changed where it stands. */
export function DeclarationsPane({ index, findings, asset, onChange, onEdit, onDrop }: Props): ReactNode {
  const set =
    <K extends Declared>(kind: K, name: string) =>
    (next: Declarations[K] | null): void =>
      onChange(kind, name, declaring(asset, kind, name, next));
  const rename = (kind: Declared, name: string, to: string): void =>
    onChange(kind, name, renamingDeclared(index, findings, asset, kind, name, to));
  const add = <K extends Declared>(kind: K, next: Declarations[K]): void =>
    onChange(kind, next.name, declaring(asset, kind, next.name, next));
  return (
    <div className="declarations">
      <section aria-label="Says">
        <h2>Says</h2>
        {asset.events.map((e) => (
          <EventLine
            key={e.name}
            asset={asset}
            event={e}
            peers={(index.project.peers ?? []).length > 0}
            onSet={set('event', e.name)}
            onRename={(to) => rename('event', e.name, to)}
          />
        ))}
        <button
          type="button"
          className="word"
          onClick={() => add('event', { name: freeName(asset, 'event', 'onEvent'), cause: { type: 'code' } })}
        >
          Add an event
        </button>
      </section>
      <section aria-label="Does">
        <h2>Does</h2>
        {asset.actions.map((a) => (
          <ActionLine
            key={a.name}
            asset={asset}
            action={a}
            onSet={set('action', a.name)}
            onRename={(to) => rename('action', a.name, to)}
          />
        ))}
        <button
          type="button"
          className="word"
          onClick={() => add('action', { name: freeName(asset, 'action', 'act') })}
        >
          Add an action
        </button>
      </section>
      <section aria-label="Has">
        <h2>Has</h2>
        {asset.properties.map((p) => (
          <PropertyLine
            key={p.name}
            index={index}
            asset={asset}
            property={p}
            onSet={set('property', p.name)}
            onRename={(to) => rename('property', p.name, to)}
          />
        ))}
        <button
          type="button"
          className="word"
          onClick={() =>
            add('property', { name: freeName(asset, 'property', 'value'), type: 'bool', default: false })
          }
        >
          Add a property
        </button>
      </section>
      <AssetLine
        index={index}
        asset={asset}
        onSet={(part, value) =>
          onEdit({
            label: `${asset.decl.id}: changed ${part}`,
            changes: [
              { op: 'set', asset: asset.decl.id, part, ...(value === undefined ? {} : { value }) } as Change,
            ],
          })
        }
        onDrop={onDrop}
      />
    </div>
  );
}
