import {
  completeWireLine,
  needsText,
  parseWireLine,
  readNote,
  type AssetIndex,
  type LineBinding,
  type Note,
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
  /** A line that was begun elsewhere. */
  begun: { text: string } | null;
  /** What a line begins with when the field is entered by its key. */
  beginning: string;
  /** Returns whether it was taken. */
  onLine: (binding: LineBinding) => boolean;
  /** The line with what is made for it. */
  onNote: (note: Note) => boolean;
  /** Several lines were pasted, or one of which something must be asked. */
  onLines: (text: string) => void;
}

/** Lines that are not finished, so that they outlive a look into another view. */
const drafts = new Map<string, string>();

/** A binding typed as one line. */
export function LineField({
  index,
  owner,
  draftKey,
  begun,
  beginning,
  onLine,
  onNote,
  onLines,
}: Props): ReactNode {
  const line = useRef<LineInputHandle>(null);
  // As it was when the view was entered: what is typed from then on is the field's own.
  const [kept] = useState(() => drafts.get(draftKey));
  useEffect(() => {
    if (begun) line.current?.enter(begun.text);
  }, [begun]);
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
  // Asked several times for the same line.
  const last = useRef<{ text: string; index: ProjectIndex; note: Note } | null>(null);
  const noteOf = useCallback(
    ({ text }: TypedLine): Note => {
      if (last.current?.text !== text || last.current.index !== index) {
        last.current = { text, index, note: readNote(index, owner, text) };
      }
      return last.current.note;
    },
    [index, owner],
  );
  const warn = useCallback(
    (line: TypedLine) => {
      const { needs, lines } = noteOf(line);
      return needs.length > 0 && needs.some((n) => n.isOpen) ? [] : lines[0].reasons;
    },
    [noteOf],
  );
  const take = (line: TypedLine): boolean => {
    const note = noteOf(line);
    if (note.needs.length === 0) return onLine(line.binding);
    if (note.changes) return onNote(note);
    onLines(line.text);
    return false;
  };
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
      does={(line) => enterDoes(noteOf(line))}
      onTake={take}
      onLines={onLines}
      onText={(text) => (text === '' ? drafts.delete(draftKey) : drafts.set(draftKey, text))}
    />
  );
}
interface TypedLine {
  text: string;
  binding: LineBinding;
}
function readLine(text: string): ReadLine<TypedLine> {
  const parsed = parseWireLine(text);
  return 'binding' in parsed ? { value: { text, binding: parsed.binding } } : parsed;
}
function enterDoes({ needs }: Note): string {
  const open = needs.find((n) => n.isOpen);
  if (open)
    return `${open.name} does not exist. Did you mean ${open.near.join(' or ')}? Enter lets you decide`;
  return needs.length > 0 ? `Enter adds it and creates ${needsText(needs)}` : 'Enter adds it';
}
