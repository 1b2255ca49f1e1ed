import type { Asked, Asset, Type, Value } from '../../src/index.js';
import type { NaiveReading } from './reading.js';

export function copies(r: NaiveReading, asset: Asset): string[] {
  return r.n.instances.filter((i) => i.asset.id === asset.id).map((i) => i.address);
}

export function literalFits(r: NaiveReading, value: Value, wanted: Type): boolean {
  if (wanted === 'bool') return typeof value === 'boolean';
  if (wanted === 'int') return Number.isInteger(value);
  if (wanted === 'float') return typeof value === 'number';
  if (wanted === 'vec2') return Array.isArray(value);
  if (typeof value !== 'string') return false;
  const declared = (r.n.project.enums ?? []).find((e) => wanted === `enum:${e.name}`);
  return declared ? declared.values.includes(value) : true;
}

/** The literals that must be of a type where it is asked; an order is for numbers alone. */
export function literalsIn(is: Asked, type: Type): Value[] {
  if (typeof is !== 'object' || Array.isArray(is)) return [is];
  if ('not' in is) return [is.not];
  if ('oneOf' in is) return is.oneOf;
  return type === 'int' || type === 'float' ? [] : [Object.values<number>(is)[0]];
}

/** A literal must be of the type of its place, and a key of a table one that the table has. */
export function literal(
  r: NaiveReading,
  value: Value,
  type: Type,
  at: string[],
  subject: object,
  keySubject: object = subject,
): void {
  if (!literalFits(r, value, type)) r.report('dangling-name', 'value', subject, at);
  key(r, value, type, at, keySubject);
}
export function key(r: NaiveReading, value: Value, type: Type, at: string[], subject: object): void {
  if (!type.startsWith('key:') || typeof value !== 'string') return;
  const table = (r.n.project.tables ?? []).find((t) => `key:${t.name}` === type);
  if (!table?.keys.includes(value)) r.report('dangling-key', '', subject, at);
}
