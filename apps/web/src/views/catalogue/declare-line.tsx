import {
  completeProjectLine,
  declareInProject,
  parseProjectLine,
  PROJECT_BEGINNINGS,
  type ChangeSet,
  type ProjectDeclaration,
  type ProjectIndex,
} from '@oquel/core';
import { useCallback, useRef, type ReactNode } from 'react';
import { LineInput, type LineInputHandle, type ReadLine } from '../../parts/ui/line-input.js';
import { entryKey } from './catalogue-address.js';

const WORDS: Record<ProjectDeclaration['kind'], string> = {
  channel: 'channel',
  enum: 'enum',
  table: 'key table',
  loadSet: 'load set',
  peer: 'peer',
  tag: 'tag',
};

/** Declares a channel, an enum, a key table, a load set or a peer, as one line. */
export function DeclareLine({
  index,
  onEdit,
  onMade,
}: {
  index: ProjectIndex;
  onEdit: (changeSet: ChangeSet) => boolean;
  onMade: (key: string) => void;
}): ReactNode {
  const line = useRef<LineInputHandle>(null);
  const complete = useCallback((text: string) => completeProjectLine(index, text), [index]);
  const read = useCallback(
    (text: string): ReadLine<ProjectDeclaration> => {
      const parsed = parseProjectLine(text);
      if (!('value' in parsed) || declareInProject(index, parsed.value)) return parsed;
      const { kind, value } = parsed.value;
      const missing = kind === 'tag' ? value.assets.find((a) => !index.assetAt.has(a)) : undefined;
      const found = missing ?? value.name;
      const expected =
        missing === undefined
          ? `another name: there is already a ${WORDS[kind]} ${value.name}`
          : 'a scene, prefab or widget that is there';
      return {
        fault: {
          at: text.lastIndexOf(found),
          found,
          message: `expected ${expected}`,
          expected,
        },
      };
    },
    [index],
  );
  return (
    <div className="declare">
      <div className="row" role="group" aria-label="Declare">
        {PROJECT_BEGINNINGS.map(([beginning, about]) => (
          <button
            key={beginning}
            type="button"
            className="word"
            title={about}
            onClick={() => line.current?.enter(beginning)}
          >
            New {beginning.trim()}
          </button>
        ))}
      </div>
      <LineInput
        ref={line}
        label="Declare"
        placeholder="channel tension(speed: float), enum Side: left, right, peer host server"
        hint="Tab completes, Enter declares. Events and actions are declared with their prefab, in Plan."
        complete={complete}
        read={read}
        does={({ kind, value }) => `Enter declares the ${WORDS[kind]} ${value.name}`}
        onTake={(declaration) => {
          const { kind, value } = declaration;
          const changes = declareInProject(index, declaration);
          if (!changes || !onEdit({ label: `declared the ${WORDS[kind]} ${value.name}`, changes }))
            return false;
          onMade(entryKey({ kind, asset: '', name: value.name }));
          return true;
        }}
      />
    </div>
  );
}
