import {
  parseArg,
  printValue,
  type AssetIndex,
  type Field,
  type ProjectIndex,
  type Value,
} from '@oquel/core';
import type { ReactNode } from 'react';
import { Entry, type Read } from '../../parts/ui/entry.js';

/** A value for one field of what a step carries. */
export function FieldEntry({
  index,
  field,
  of,
  value,
  onTake,
}: {
  index: ProjectIndex;
  field: Field;
  of: string;
  value: Value | undefined;
  onTake: (value: Value) => void;
}): ReactNode {
  const read = (text: string): Read<Value> => {
    const parsed = parseArg(text, field.type, { index, payload: [], reader: null as AssetIndex | null });
    if ('error' in parsed) return parsed;
    const literal = typeof parsed.arg !== 'object' || Array.isArray(parsed.arg);
    return literal ? { value: parsed.arg as Value } : { error: 'expected a value' };
  };
  const shown = value === undefined ? '' : typeof value === 'string' ? value : printValue(value);
  return (
    <Entry
      label={`${field.name} of ${of}`}
      shown={`${field.name} =`}
      width={70}
      placeholder={field.type}
      value={shown}
      read={read}
      onTake={onTake}
    />
  );
}
