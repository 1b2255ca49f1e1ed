import { isName, type Asset, type ChangeSet, type ProjectIndex } from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { creating } from './stage-edits.js';

/** Makes a new scene, prefab or widget: its kind, then its name. */
export function NewAsset({
  index,
  onCreate,
}: {
  index: ProjectIndex;
  onCreate: (changeSet: ChangeSet, id: string) => void;
}): ReactNode {
  const [kind, setKind] = useState<Asset['kind'] | ''>('');
  const [id, setId] = useState('');
  const fault =
    id === ''
      ? ''
      : !isName(id)
        ? 'a letter, then letters, digits, - or _'
        : index.assetAt.has(id)
          ? 'there already'
          : '';
  const close = (): void => {
    setKind('');
    setId('');
  };
  return (
    <span className="newasset">
      <select
        className="line"
        aria-label="New scene, prefab or widget"
        value={kind}
        onChange={(e) => setKind(e.target.value as Asset['kind'] | '')}
      >
        <option value="">New ...</option>
        <option value="scene">scene</option>
        <option value="prefab">prefab</option>
        <option value="widget">widget</option>
      </select>
      {kind !== '' && (
        <>
          <input
            className="line code"
            aria-label={`Name of the new ${kind}`}
            aria-invalid={fault !== ''}
            placeholder="its name, then Enter"
            value={id}
            // Choosing the kind asks for the name next.
            autoFocus
            onChange={(e) => setId(e.target.value.trim())}
            onKeyDown={(e) => {
              if (e.key === 'Escape') close();
              if (e.key !== 'Enter' || id === '' || fault !== '') return;
              onCreate(creating(index, kind, id), id);
              close();
            }}
          />
          {fault !== '' && (
            <span className="fault error" role="alert">
              {' '}
              {fault}
            </span>
          )}
        </>
      )}
    </span>
  );
}
