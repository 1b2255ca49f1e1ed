/* eslint-disable oquel/own-properties -- the one place that may */
/** A map of a document: its names come from outside, and may be those that every object inherits. */
type Names<T> = { readonly [name: string]: T };

/** What a map has under a name of its own; undefined for all else, such as what every object inherits. */
export function own<T>(map: Names<T> | undefined, name: string): T | undefined {
  return map !== undefined && Object.hasOwn(map, name) ? map[name] : undefined;
}
/** Gives a map something under a name of its own, whatever that is: an assignment to `__proto__` would give none. */
export function put<T>(map: { [name: string]: T }, name: string, value: T): void {
  if (name !== '__proto__') map[name] = value;
  else Object.defineProperty(map, name, { value, enumerable: true, configurable: true, writable: true });
}
