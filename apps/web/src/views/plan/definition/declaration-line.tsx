import {
  completeDeclaration,
  defaultOfType,
  parseDeclaration,
  type AssetIndex,
  type Declaration,
  type ProjectIndex,
} from '@oquel/core';
import { useCallback, type ReactNode, type Ref } from 'react';
import { LineInput, type LineInputHandle, type ReadLine } from '../../../parts/ui/line-input.js';

/** A declaration typed as one line: a new one, or one that is there in other words. */
export function DeclarationLine({
  ref,
  index,
  asset,
  label,
  text,
  old,
  onTake,
  onLeave,
}: {
  ref?: Ref<LineInputHandle>;
  index: ProjectIndex;
  asset: AssetIndex;
  label: string;
  text?: string;
  /** The one that is changed; null for a new one. */
  old: Declaration | null;
  onTake: (declaration: Declaration) => boolean;
  onLeave?: () => void;
}): ReactNode {
  const complete = useCallback(
    (beginning: string) => completeDeclaration(index, asset, beginning),
    [index, asset],
  );
  const read = useCallback(
    (line: string): ReadLine<Declaration> => {
      const parsed = parseDeclaration(line, (type) => defaultOfType(index, type));
      if (!('value' in parsed)) return parsed;
      const taken = takenFault(asset, old, parsed.value, line);
      return taken ? { fault: taken } : parsed;
    },
    [index, asset, old],
  );
  return (
    <LineInput
      ref={ref}
      label={label}
      placeholder="onOpened, open: set isOpen to true; raise onOpened, isOpen = false"
      hint="An event, an action or a property. Tab completes, Enter adds."
      text={text}
      autoFocus={text !== undefined}
      complete={complete}
      read={read}
      does={({ kind, value }) => `Enter ${old ? 'changes' : 'adds'} the ${kind} ${value.name}`}
      onTake={onTake}
      onLeave={onLeave}
    />
  );
}

function takenFault(
  asset: AssetIndex,
  old: Declaration | null,
  { kind, value: { name } }: Declaration,
  line: string,
): { at: number; found: string; message: string; expected: string } | null {
  if (old && old.kind === kind && old.value.name === name) return null;
  const names = kind === 'event' ? asset.eventAt : kind === 'action' ? asset.actionAt : asset.propertyAt;
  if (!names.has(name)) return null;
  const expected = `another name: there is already ${kind === 'property' ? 'a' : 'an'} ${kind} ${name}`;
  return { at: Math.max(0, line.indexOf(name)), found: name, message: `expected ${expected}`, expected };
}
