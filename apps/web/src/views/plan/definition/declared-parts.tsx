import { isName, parseFields, printFields, type Field, type ParsedText } from '@oquel/core';
import type { ReactNode } from 'react';
import { Entry, type Read } from '../../../parts/ui/entry.js';

/** Fields and buttons that events, actions and properties have in common. */

export function NameEntry({
  name,
  taken,
  onRename,
}: {
  name: string;
  taken: ReadonlyMap<string, number>;
  onRename: (to: string) => void;
}): ReactNode {
  return (
    <Entry
      label={`Name of ${name}`}
      shown=""
      width={118}
      value={name}
      read={(text) =>
        !isName(text.trim())
          ? { error: 'a name' }
          : taken.has(text.trim())
            ? { error: 'there already' }
            : { value: text.trim() }
      }
      onTake={onRename}
    />
  );
}
export function FieldsEntry({
  label,
  shown,
  fields,
  onTake,
}: {
  label: string;
  shown: string;
  fields: readonly Field[];
  onTake: (fields: Field[]) => void;
}): ReactNode {
  return (
    <Entry
      label={label}
      shown={shown}
      width={140}
      placeholder="nothing"
      value={printFields(fields)}
      read={(text) => spoken(parseFields(text))}
      onTake={onTake}
    />
  );
}
export function NoteEntry({
  name,
  note = '',
  onTake,
}: {
  name: string;
  note: string | undefined;
  onTake: (note: string) => void;
}): ReactNode {
  return (
    <Entry
      label={`Note on ${name}`}
      shown="note"
      width={150}
      value={note}
      read={(text) => ({ value: text.trim() })}
      onTake={onTake}
    />
  );
}
export function Tick({
  text,
  on,
  onSet,
}: {
  text: string;
  on: boolean;
  onSet: (on: boolean) => void;
}): ReactNode {
  return (
    <button type="button" className="tick" aria-pressed={on} onClick={() => onSet(!on)}>
      {text}
    </button>
  );
}
export function Remove({ what, onRemove }: { what: string; onRemove: () => void }): ReactNode {
  return (
    <button type="button" className="word" aria-label={`Remove ${what}`} onClick={onRemove}>
      Remove
    </button>
  );
}

export function spoken<T>(parsed: ParsedText<T>): Read<T> {
  if ('value' in parsed) return parsed;
  return { error: `at ${parsed.fault.at + 1}: ${parsed.fault.message}` };
}
export function readCount(text: string): Read<number | undefined> {
  if (text.trim() === '') return { value: undefined };
  const n = Number(text);
  return Number.isSafeInteger(n) && n >= 0 ? { value: n } : { error: 'a whole number' };
}
/** The same without a part, if it says nothing. */
export function without<T extends object>(whole: T, part: keyof T, gone: boolean): T {
  if (!gone) return whole;
  const { [part]: _, ...rest } = whole;
  return rest as T;
}
