import type { ProjectIndex } from './index-project.js';
import type { Type } from './types.js';

/** The names that a value of a type is one of; undefined for other types, and for an enum or table that is not declared. */
export function namesOfType({ typeNames }: ProjectIndex, type: Type): ReadonlySet<string> | undefined {
  if (type.startsWith('enum:')) return typeNames.ofEnums.get(type.slice(5));
  return type.startsWith('key:') ? typeNames.ofTables.get(type.slice(4)) : undefined;
}
/** The values that a type names one by one; none for numbers and texts. */
export function valuesOfType(index: ProjectIndex, type: Type): (string | boolean)[] {
  if (type === 'bool') return [true, false];
  return [...(namesOfType(index, type) ?? [])];
}
/** What a property of a type is at first, where nobody says. */
export function defaultOfType(index: ProjectIndex, type: Type): boolean | number | string | [number, number] {
  if (type === 'bool') return false;
  if (type === 'int' || type === 'float') return 0;
  if (type === 'vec2') return [0, 0];
  return valuesOfType(index, type)[0] ?? '';
}
