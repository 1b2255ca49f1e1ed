import type { ProjectIndex } from './index-project.js';
import type { Type } from './types.js';

/** The values that a type names one by one; none for numbers and texts. */
export function valuesOfType(index: ProjectIndex, type: Type): (string | boolean)[] {
  const { enums, tables } = index.project;
  if (type === 'bool') return [true, false];
  if (type.startsWith('enum:')) return enums?.find((e) => e.name === type.slice(5))?.values ?? [];
  return type.startsWith('key:') ? (tables?.find((t) => t.name === type.slice(4))?.keys ?? []) : [];
}
/** What a property of a type is at first, where nobody says. */
export function defaultOfType(index: ProjectIndex, type: Type): boolean | number | string | [number, number] {
  if (type === 'bool') return false;
  if (type === 'int' || type === 'float') return 0;
  if (type === 'vec2') return [0, 0];
  return valuesOfType(index, type)[0] ?? '';
}
