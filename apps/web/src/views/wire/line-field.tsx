import {
  checkLine,
  completeWireLine,
  parseWireLine,
  type AssetIndex,
  type LineBinding,
  type ProjectIndex,
} from '@oquel/core';
import { useCallback, useEffect, useRef, useState, type ReactNode } from 'react';
import { lettersOn } from '../../session/letters.js';
import { LineInput, type LineInputHandle, type ReadLine } from '../../parts/ui/line-input.js';
import { NOT_OF_THE_VIEW } from '../../parts/ui/keys.js';

interface Props {
  index: ProjectIndex;
  owner: AssetIndex;
  /** Under which an unfinished line is kept. */
  draftKey: string;
  /** What a line begins with when the field is entered by its key. */
  beginning: string;
  /** Returns whether it was taken. */
  onLine: (binding: LineBinding) => boolean;
  /** Several lines were pasted. */
  onLines: (text: string) => void;
}

/** Lines that are not finished, so that they outlive a look into another view. */
const drafts = new Map<string, string>();

/** A binding typed as one line. */
export function LineField({ index, owner, draftKey, beginning, onLine, onLines }: Props): ReactNode {
  const line = useRef<LineInputHandle>(null);
  // As it was when the view was entered: what is typed from then on is the field's own.
  const [kept] = useState(() => drafts.get(draftKey));
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (e.ctrlKey || e.metaKey || e.altKey || e.key.toLowerCase() !== 'w' || !lettersOn()) return;
      if (e.target instanceof HTMLElement && e.target.closest(NOT_OF_THE_VIEW)) return;
      e.preventDefault();
      line.current?.enter((drafts.get(draftKey) ?? '') === '' ? beginning : undefined);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
  const complete = useCallback((text: string) => completeWireLine(index, owner, text), [index, owner]);
  const warn = useCallback((binding: LineBinding) => checkLine(index, owner, binding), [index, owner]);
  return (
    <LineInput
      ref={line}
      label={
        <>
          Line <kbd>W</kbd>
        </>
      }
      placeholder="when mast-2.onGust do brake-1.engage(force = $speed)"
      hint="Tab completes, Enter adds; many lines can be pasted"
      text={kept}
      complete={complete}
      read={readLine}
      warn={warn}
      does={enterAdds}
      onTake={onLine}
      onLines={onLines}
      onText={(text) => (text === '' ? drafts.delete(draftKey) : drafts.set(draftKey, text))}
    />
  );
}
const enterAdds = (): string => 'Enter adds it';
function readLine(text: string): ReadLine<LineBinding> {
  const parsed = parseWireLine(text);
  return 'binding' in parsed ? { value: parsed.binding } : parsed;
}
