import {
  completeDeclaration,
  completeProjectLine,
  defaultOfType,
  parseAssetHead,
  parseDeclaration,
  parseProjectLine,
  PROJECT_BEGINNINGS,
  readLines,
  textKind,
  type ChangeSet,
  type ProjectIndex,
  type ReadLines,
} from '@oquel/core';
import { useCallback, useLayoutEffect, useRef, type ReactNode } from 'react';
import { LineInput, type LineInputHandle, type ReadLine } from '../../parts/ui/line-input.js';
import { entryKey } from './catalogue-address.js';

interface Declares {
  read: ReadLines;
  /** In words: `the channel tension`. */
  what: string;
  /** The entry that is shown afterwards; empty for none. */
  key: string;
}

/**
 * Declares as one line what belongs to the project; and scenes, prefabs and widgets; where an asset is chosen, its events,
 * actions and properties too.
 */
export function DeclareLine({
  index,
  asset,
  begun,
  onEdit,
  onMade,
}: {
  index: ProjectIndex;
  /** Whose declarations are looked at; empty for all. */
  asset: string;
  /** A line that was begun elsewhere: it is gone on with here. */
  begun: { text: string } | null;
  onEdit: (changeSet: ChangeSet) => boolean;
  onMade: (key: string) => void;
}): ReactNode {
  const line = useRef<LineInputHandle>(null);
  // Before the next key can come: Enter right behind the click is meant for this line.
  useLayoutEffect(() => {
    if (begun) line.current?.enter(begun.text);
  }, [begun]);
  const of = index.assets[index.assetAt.get(asset) ?? -1] as ProjectIndex['assets'][number] | undefined;
  const complete = useCallback(
    (text: string) =>
      of && OF_ASSET.test(text) ? completeDeclaration(index, of, text) : completeProjectLine(index, text),
    [index, of],
  );
  const read = useCallback((text: string) => readDeclares(index, asset, text), [index, asset]);
  return (
    <div className="declare">
      <div className="row" role="group" aria-label="Declare">
        {[...(of ? OF_ASSET_BEGINNINGS : []), ...PROJECT_BEGINNINGS].map(([beginning, about]) => (
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
        hint={
          of
            ? `Tab completes, Enter declares. Events, actions and properties are declared in ${asset}.`
            : 'Tab completes, Enter declares. For events and actions, choose their asset above.'
        }
        complete={complete}
        read={read}
        does={({ what }) => `Enter declares ${what}`}
        onTake={({ read: lines, what, key }) => {
          if (!lines.changes || !onEdit({ label: `declared ${what}`, changes: lines.changes })) return false;
          onMade(key);
          return true;
        }}
      />
    </div>
  );
}
const OF_ASSET = /^\s*(?:event|action|property)(?:\s|$)/;
const OF_ASSET_BEGINNINGS = [
  ['event ', 'something it can raise'],
  ['action ', 'something it can do'],
] as const;
const WORDS = {
  channel: 'channel',
  enum: 'enum',
  table: 'key table',
  loadSet: 'load set',
  peer: 'peer',
  tag: 'tag',
};

function readDeclares(index: ProjectIndex, asset: string, text: string): ReadLine<Declares> {
  const fault = (message: string, at = 0, found = text.trim()): ReadLine<Declares> => ({
    fault: { at, found, message: `expected ${message}`, expected: message },
  });
  if (textKind(text) !== 'declared') {
    // Whatever it is meant to be, the words that a line can begin with are listed.
    const parsed = parseProjectLine(text);
    return 'fault' in parsed ? parsed : fault('a declaration');
  }
  if (OF_ASSET.test(text) && asset === '') return fault('an asset to be chosen beside the search first');
  const read = readLines(index, asset, text);
  const [line] = read.lines;
  if (line.fault) return { fault: line.fault };
  const named = nameOf(index, text);
  if (line.state === 'wired' || line.state === 'faulty') {
    const at = Math.max(0, text.lastIndexOf(named?.name ?? ''));
    return fault(`another name: ${line.reasons.join('; ')}`, at, named?.name);
  }
  if (!read.changes || !named) return fault(line.reasons.join('; ') || 'a declaration');
  const { kind, name } = named;
  const isOfAsset = OF_ASSET.test(text);
  const key = kind === '' ? '' : entryKey({ kind, asset: isOfAsset ? asset : '', name });
  return { value: { read, what: `the ${named.word} ${name}${isOfAsset ? ` of ${asset}` : ''}`, key } };
}
/** What a line declares. Properties, scenes, prefabs and widgets are no entries of the catalogue. */
function nameOf(
  index: ProjectIndex,
  text: string,
): { kind: keyof typeof WORDS | 'event' | 'action' | ''; word: string; name: string } | null {
  if (OF_ASSET.test(text)) {
    const parsed = parseDeclaration(text, (type) => defaultOfType(index, type));
    if (!('value' in parsed)) return null;
    const { kind, value } = parsed.value;
    return { kind: kind === 'property' ? '' : kind, word: kind, name: value.name };
  }
  const head = parseAssetHead(text);
  if ('value' in head) return { kind: '', word: head.value.kind, name: head.value.id };
  const parsed = parseProjectLine(text);
  if (!('value' in parsed)) return null;
  const { kind, value } = parsed.value;
  return { kind, word: WORDS[kind], name: value.name };
}
