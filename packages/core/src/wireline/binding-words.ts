import type { Binding } from '../project/types.js';
import { printFrom, printTo } from './print.js';

/** Letters that a binding takes in a label; the rest is left out. */
const MOST = 140;

/** `when mast-1.onGust do brake-1.engage`: a binding in a label, without its arguments and options. */
export function bindingWords({ from, to }: Pick<Binding, 'from' | 'to'>): string {
  const text = `when ${printFrom({ from })} do ${printTo({ to })}`;
  return text.length > MOST ? `${text.slice(0, MOST - 1)}…` : text;
}
