import type { ProjectIndex } from './index-project.js';
import type { EnumDecl, KeyTable, Project, Type } from './types.js';

type Names = ReadonlyMap<string, ReadonlySet<string>>;
/** Lists of a project are never changed in place. */
const sets = new WeakMap<readonly object[], Names>();

/** The values of each enum, by its name, in the order of the document. Cost: theirs, once for each list of enums. */
export function enumValues({ enums = NONE }: Project): Names {
  return setsOf(enums, (e) => e.values);
}
/** The keys of each key table, by its name, in the order of the document. Cost: theirs, once for each list of tables. */
export function tableKeys({ tables = NONE }: Project): Names {
  return setsOf(tables, (t) => t.keys);
}
const NONE: never[] = [];
function setsOf<T extends EnumDecl | KeyTable>(
  lists: readonly T[],
  names: (list: T) => readonly string[],
): Names {
  let known = sets.get(lists);
  if (!known) sets.set(lists, (known = new Map(lists.map((list) => [list.name, new Set(names(list))]))));
  return known;
}

/** The names that a value of a type is one of; undefined for other types, and for an enum or table that is not declared. */
export function namesOfType({ project }: ProjectIndex, type: Type): ReadonlySet<string> | undefined {
  if (type.startsWith('enum:')) return enumValues(project).get(type.slice(5));
  return type.startsWith('key:') ? tableKeys(project).get(type.slice(4)) : undefined;
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
