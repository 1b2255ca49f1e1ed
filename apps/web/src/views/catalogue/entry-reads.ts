import { parseFields, parseProjectLine, type Field, type ProjectIndex } from '@oquel/core';
import type { Read } from '../../parts/ui/entry.js';

/** Items as a list with commas; in quotes where they have one themselves. */
export function itemsText(items: readonly string[]): string {
  return items.map((item) => (/^[^,"]*$/.test(item) ? item : JSON.stringify(item))).join(', ');
}
/** What the items of an entry are called. */
export const ITEMS = { enum: 'Values', table: 'Keys', loadSet: 'Scenes', tag: 'On' } as const;
/** A list as it was typed. */
export function itemsRead(index: ProjectIndex, kind: keyof typeof ITEMS, text: string): Read<string[]> {
  if (text.trim() === '') return { value: [] };
  const parsed = parseProjectLine(`enum Items: ${text}`);
  if ('value' in parsed && parsed.value.kind === 'enum') {
    const { values } = parsed.value.value;
    const missing = kind === 'tag' ? values.find((v) => !index.assetAt.has(v)) : undefined;
    return missing === undefined ? { value: values } : { error: `there is no ${missing} in the project` };
  }
  return { error: 'fault' in parsed ? parsed.fault.message : 'expected a list with commas' };
}
/** Fields as they were typed. */
export function fieldsRead(text: string): Read<Field[]> {
  const parsed = parseFields(text);
  return 'value' in parsed ? { value: parsed.value } : { error: parsed.fault.message };
}
