import { matching, type Shape } from './shape.js';

const NAME = /^[A-Za-z_][A-Za-z0-9_-]{0,63}$/;
/** Ids, and names of events, actions, properties, channels and tables. */
export const name: Shape<string> = matching(
  'a name (a letter or _, then letters, digits, _ or -, at most 64)',
  NAME,
);
export function isName(value: string): boolean {
  return NAME.test(value);
}
