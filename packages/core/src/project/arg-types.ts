import { fieldNamed } from './fields.js';
import type { AssetIndex, ProjectIndex } from './index-project.js';
import type { Arg, Field, Type, Value } from './types.js';
import { namesOfType } from './type-values.js';
import { isLiteral } from './value.js';

/** What arguments may read: the payload of what is heard, and the properties of one asset. */
export interface ArgScope {
  index: ProjectIndex;
  payload: readonly Field[];
  /** The sender's asset (the owner's when a channel is heard); null if it is not known. */
  reader: AssetIndex | null;
}

/** Why an argument does not suit a place; null if it does. */
export type ArgFault =
  | { kind: 'no-payload'; name: string }
  | { kind: 'no-property'; name: string }
  | { kind: 'type'; found: string }
  | { kind: 'enum'; value: string }
  | { kind: 'table'; value: string };

/** Whether a value of one type may stand where another is wanted: the same type, or an int for a float. */
export function typeFits(found: Type, wanted: Type): boolean {
  return found === wanted || (found === 'int' && wanted === 'float');
}

/** Judges one argument against the type of the place that it fills. */
export function argFault(scope: ArgScope, arg: Arg, wanted: Type): ArgFault | null {
  if (isLiteral(arg)) return literalFault(scope.index, arg, wanted);
  if ('sender' in arg) return wanted === 'instance' ? null : { kind: 'type', found: 'instance' };
  const found = 'payload' in arg ? payloadType(scope, arg.payload) : propertyType(scope, arg.property);
  if (found === null) {
    return 'payload' in arg
      ? { kind: 'no-payload', name: arg.payload }
      : { kind: 'no-property', name: arg.property };
  }
  if (found === 'unknown' || (arg.as === 'string' && wanted === 'string')) return null;
  if (arg.as === 'string') return { kind: 'type', found: 'string' };
  return typeFits(found, wanted) ? null : { kind: 'type', found };
}
function payloadType(scope: ArgScope, name: string): Type | null {
  return fieldNamed(scope.payload, name)?.type ?? null;
}
function propertyType(scope: ArgScope, name: string): Type | 'unknown' | null {
  if (!scope.reader) return 'unknown';
  const at = scope.reader.propertyAt.get(name);
  return at === undefined ? null : scope.reader.properties[at].type;
}

/** Judges a literal against a type. A name of an enum or table that is not declared is another rule's affair. */
export function literalFault(index: ProjectIndex, value: Value, wanted: Type): ArgFault | null {
  const found = literalType(value);
  const kind = wanted.startsWith('enum:') ? 'enum' : wanted.startsWith('key:') ? 'table' : null;
  if (kind !== null) {
    if (typeof value !== 'string') return { kind: 'type', found };
    const names = namesOfType(index, wanted);
    return names && !names.has(value) ? { kind, value } : null;
  }
  if (wanted === 'instance') return found === 'string' ? null : { kind: 'type', found };
  return typeFits(found, wanted) ? null : { kind: 'type', found };
}
export function literalType(value: Value): Type {
  if (typeof value === 'boolean') return 'bool';
  if (typeof value === 'string') return 'string';
  if (Array.isArray(value)) return 'vec2';
  return Number.isInteger(value) ? 'int' : 'float';
}

/** The fault in words: `expected float, found string`. */
export function argFaultText(fault: ArgFault, wanted: Type): string {
  switch (fault.kind) {
    case 'no-payload':
      return `the event carries no "${fault.name}"`;
    case 'no-property':
      return `the sender has no property "${fault.name}"`;
    case 'type':
      return `expected ${wanted}, found ${fault.found}`;
    case 'enum':
      return `"${fault.value}" is no value of ${wanted.slice(5)}`;
    case 'table':
      return `"${fault.value}" is no key of ${wanted.slice(4)}`;
  }
}
