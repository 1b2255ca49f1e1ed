import { nameFromText, type Asset, type ChangeSet, type ProjectIndex } from '@oquel/core';
import { useRef, useState, type ReactNode } from 'react';
import { creating } from './stage-edits.js';

const KINDS = ['scene', 'prefab', 'widget'] as const;

/** Makes a new scene, prefab or widget: its kind, then its name. */
export function NewAsset({
  index,
  onCreate,
}: {
  index: ProjectIndex;
  onCreate: (changeSet: ChangeSet, id: string) => void;
}): ReactNode {
  const [kind, setKind] = useState<Asset['kind'] | ''>('');
  const [text, setText] = useState('');
  const byKey = useRef(false);
  const id = kind === '' ? '' : nameFromText(text, kind);
  const fault =
    text.trim() === ''
      ? ''
      : id === ''
        ? 'a name needs a letter from A to Z'
        : index.assetAt.has(id)
          ? `${id} already exists`
          : '';
  const close = (): void => {
    setKind('');
    setText('');
  };
  const create = (): void => {
    if (kind === '' || id === '' || fault !== '') return;
    onCreate(creating(index, kind, id), id);
    close();
  };
  return (
    <span className="newasset">
      <select
        className="line"
        aria-label="New scene, prefab or widget"
        value={kind}
        onPointerDown={() => (byKey.current = false)}
        onKeyDown={() => (byKey.current = true)}
        onChange={(e) => setKind(e.target.value as Asset['kind'] | '')}
      >
        <option value="">New …</option>
        {KINDS.map((k) => (
          <option key={k}>{k}</option>
        ))}
      </select>
      {kind !== '' && (
        <>
          <input
            className="line code"
            aria-label={`Name of the new ${kind}`}
            aria-invalid={fault !== ''}
            placeholder="name, then Enter"
            value={text}
            // Choosing the kind asks for the name next; with the arrows it is chosen by way of others.
            autoFocus={!byKey.current}
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Escape') close();
              else if (e.key === 'Enter') create();
              else return;
              e.preventDefault();
              e.stopPropagation();
            }}
          />
          <button type="button" className="tick" disabled={id === '' || fault !== ''} onClick={create}>
            Create
          </button>
          {fault !== '' ? (
            <span className="fault error" role="alert">
              {' '}
              {fault}
            </span>
          ) : (
            id !== text.trim() && (
              <span className="soft" role="status">
                {' '}
                saved as {id}
              </span>
            )
          )}
        </>
      )}
    </span>
  );
}
