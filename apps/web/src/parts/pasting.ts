import { readStage, type AssetIndex, type ChangeSet, type ProjectIndex } from '@oquel/core';
import { countText } from '../format.js';

/** What pasted lines that place and wire things would do. */
export interface Pasting {
  /** Null where nothing comes of them. */
  changeSet: ChangeSet | null;
  placed: string[];
  /** Of what nothing comes, and why; null if all is taken. */
  words: string | null;
}
/** Lines of one paste; more are refused in words. */
const MOST_LINES = 20_000;

export function pasting(index: ProjectIndex, owner: AssetIndex, text: string): Pasting {
  const asset = owner.decl.id;
  const count = text.split('\n').length;
  if (count > MOST_LINES) {
    const words = `${count} lines are more than can be pasted at once: at most ${MOST_LINES}`;
    return { changeSet: null, placed: [], words };
  }
  const { changes, placed, wired, left } = readStage(index, owner, text);
  const said = [
    ...(placed.length > 0 ? [placed.length === 1 ? placed[0] : `${placed.length} things`] : []),
    ...(wired.length > 0 ? [countText(wired.length, 'binding')] : []),
  ].join(' and ');
  const [first] = left;
  const why = first ? `line ${first.number}: ${first.why}` : 'there is no line in the clipboard';
  if (changes.length === 0) return { changeSet: null, placed, words: `Nothing was pasted: ${why}` };
  return {
    changeSet: { label: `${asset}: pasted ${said}`, changes },
    placed,
    words: first ? `${countText(left.length, 'line')} left out; ${why}` : null,
  };
}
