import { printFields } from './declared.js';
import { printName } from './names.js';
import type { ProjectDeclaration } from './project-line.js';

/** The line that `parseProjectLine` reads back, without a note. */
export function printProjectLine({ kind, value }: ProjectDeclaration): string {
  const name = printName(value.name);
  switch (kind) {
    case 'channel':
      return `channel ${name}${value.payload ? `(${printFields(value.payload)})` : ''}${
        value.note === undefined ? '' : ` note ${JSON.stringify(value.note)}`
      }`;
    case 'enum':
      return `enum ${name}: ${printItems(value.values)}`;
    case 'table':
      return `key table ${name}: ${printItems(value.keys)}`;
    case 'loadSet':
      return `load set ${name}: ${printItems(value.scenes)}`;
    case 'peer':
      return `peer ${name} ${value.role}`;
    case 'tag':
      return `tag ${name}: ${printItems(value.assets)}`;
  }
}
/** Texts with commas between them; in quotes where they would not come back as they are; `()` for none. */
export function printItems(items: readonly string[]): string {
  if (items.length === 0) return '()';
  return items
    .map((item) => (/^[^\s,"(](?:[^,"\n\r]*[^\s,"])?$/.test(item) ? item : JSON.stringify(item)))
    .join(', ');
}
