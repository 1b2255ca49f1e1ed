import { literalType } from '../project/arg-types.js';
import { asksOrder, literalsOf } from '../project/condition.js';
import type { Asked, Type, Value } from '../project/types.js';
import { guessType } from '../wireline/guess.js';

/**
 * Types of fields, parameters and properties that are to be declared, from what lines give them and ask of them. Slots that
 * one line joins have one type: that of a slot that is declared already, or else what fits all values. Cost: near the
 * number of joins (disjoint sets with path halving, Tarjan and van Leeuwen, 1984).
 */
export class Slots {
  private readonly at = new Map<string, number>();
  private readonly guessed: (Type | null)[] = [];
  private readonly parent: number[] = [];
  private readonly known: (Type | null)[] = [];
  private readonly given: (Type | null)[] = [];

  /** A slot by its key; `name` is what people call it, by which its type is guessed where nothing else tells. */
  slot(key: string, name: string, type: Type | null = null): number {
    let at = this.at.get(key);
    if (at === undefined) {
      at = this.parent.length;
      this.at.set(key, at);
      this.guessed.push(guessType(name));
      this.parent.push(at);
      this.known.push(null);
      this.given.push(null);
    }
    if (type !== null) this.is(at, type);
    return at;
  }
  /** It is declared with this type. */
  is(slot: number, type: Type): void {
    this.known[this.root(slot)] ??= type;
  }
  /** It is most likely of this type, if nothing tells otherwise. */
  guess(slot: number, type: Type): void {
    this.guessed[this.root(slot)] ??= type;
  }
  /** A value stands there. */
  holds(slot: number, value: Value): void {
    this.may(slot, literalType(value));
  }
  asks(slot: number, asked: Asked): void {
    if (asksOrder(asked)) this.may(slot, Number.isInteger(Object.values<number>(asked)[0]) ? 'int' : 'float');
    else for (const value of literalsOf(asked)) this.holds(slot, value);
  }
  /** One is read into the other. */
  joins(a: number, b: number): void {
    const [p, q] = [this.root(a), this.root(b)];
    if (p === q) return;
    this.parent[q] = p;
    this.known[p] ??= this.known[q];
    this.guessed[p] ??= this.guessed[q];
    const given = this.given[q];
    if (given !== null) this.may(p, given);
  }
  typeOf(slot: number): Type {
    const root = this.root(slot);
    // Most of what events carry is measured.
    return this.known[root] ?? this.given[root] ?? this.guessed[root] ?? 'float';
  }

  private may(slot: number, type: Type): void {
    const root = this.root(slot);
    const before = this.given[root];
    this.given[root] = before === null ? type : widened(before, type);
  }
  private root(slot: number): number {
    const { parent } = this;
    while (parent[slot] !== slot) slot = parent[slot] = parent[parent[slot]];
    return slot;
  }
}
/** A whole number can be any; of two that do not go together the first stays, and the audit tells of the second. */
function widened(a: Type, b: Type): Type {
  return a === 'int' && b === 'float' ? 'float' : a;
}
