import { nearest } from '../project/nearest.js';

/** Names that are reported of those that might have been meant. */
const MOST = 5;

/** What a finding about a name shows: the few names that are most like it, and how many there are. */
export interface NamesText {
  near: string[];
  /** What there is besides, in words. */
  rest: string;
}

/** The names nearest to one that is missing. Cost: the known names times the square of their length. */
export function namesText(wanted: string, known: readonly string[]): NamesText {
  const near = nearest(wanted, known, MOST);
  if (known.length === 0) return { near, rest: 'Nothing of that kind is declared.' };
  const left = known.length - near.length;
  if (near.length > 0)
    return {
      near,
      rest:
        left === 0
          ? ''
          : left === 1
            ? '1 other name is less similar.'
            : `${left} other names are less similar.`,
    };
  if (known.length <= MOST) return { near: [...known], rest: '' };
  return { near, rest: `None of the ${known.length} declared names is like it.` };
}
