import { applyChanges } from '../edit/apply.js';
import { EditRefused } from '../edit/check-change.js';
import type { Change } from '../edit/change.js';
import { indexProject, type AssetIndex, type ProjectIndex } from '../project/index-project.js';
import { checkLine } from '../wireline/check.js';
import { readWireLines, type PastedLine } from '../wireline/paste.js';
import { declareFor } from './declare.js';
import type { Need, Wishes } from './needs.js';

/** A line of a note. `asked`: something that it names must be decided first. */
export interface NoteLine extends Omit<PastedLine, 'state'> {
  state: PastedLine['state'] | 'asked';
  isTicked: boolean;
}
/** Many lines with what they need, before anything is done. */
export interface Note {
  /** As with {@link readWireLines}, judged by what would be there then: `faulty` is what stays at fault. */
  lines: readonly NoteLine[];
  /** What the ticked lines need; those that are open must be answered first. */
  needs: readonly Need[];
  /** The edit; null as long as something is open or cannot be taken, or if nothing is ticked. */
  changes: Change[] | null;
  /** How many bindings it adds. */
  count: number;
}

/**
 * Reads a note of wire lines for an owner, and what must be declared and placed for them. `ticks`: lines that somebody wants
 * or does not want, by number; what is new or can be made so is wanted. With `isMaking` false nothing is made but bindings.
 * Cost: the lines, the owner, and the assets that change.
 */
export function readNote(
  index: ProjectIndex,
  owner: AssetIndex,
  text: string,
  { wishes = new Map(), ticks = new Map(), isMaking = true }: NoteAsk = {},
): Note {
  const read = readWireLines(index, owner, text);
  const wanted = read.filter((l) => l.binding && l.state !== 'wired' && ticks.get(l.number) !== false);
  const whole = isMaking ? made(index, owner, wanted, wishes) : null;
  const judged = new Map(wanted.map((l, i) => [l.number, whole ? whole.reasons[i] : l.reasons]));
  const asked = new Set(pending(whole?.needs ?? []).map((i) => wanted[i].number));
  const lines = read.map((l): NoteLine => {
    if (asked.has(l.number)) {
      return { ...l, reasons: [], state: 'asked', isTicked: ticks.get(l.number) ?? true };
    }
    const reasons = judged.get(l.number) ?? l.reasons;
    const state = judged.has(l.number)
      ? reasons.length > 0
        ? ('faulty' as const)
        : ('new' as const)
      : l.state;
    const isTicked = l.binding !== null && (ticks.get(l.number) ?? state === 'new');
    return { ...l, reasons, state, isTicked };
  });
  const chosen = lines.filter((l) => l.isTicked);
  const same = chosen.length === wanted.length && chosen.every((l, i) => l.number === wanted[i].number);
  const final = isMaking && !same ? made(index, owner, chosen, wishes) : whole;
  const needs = final?.needs ?? [];
  const changes = final ? final.changes : additions(owner, chosen);
  const isReady = chosen.length > 0 && needs.every((n) => !n.isOpen && n.fault === null);
  return { lines, needs, changes: isReady ? changes : null, count: chosen.length };
}
export interface NoteAsk {
  wishes?: Wishes;
  ticks?: ReadonlyMap<number, boolean>;
  isMaking?: boolean;
}

/** Lines that wait for an answer, or for a line that can be taken. */
function pending(needs: readonly Need[]): number[] {
  return needs.filter((n) => n.isOpen || n.fault !== null).flatMap((n) => n.lines);
}

function made(
  index: ProjectIndex,
  owner: AssetIndex,
  lines: readonly Pick<PastedLine, 'binding'>[],
  wishes: Wishes,
): { needs: readonly Need[]; changes: Change[]; reasons: string[][] } {
  const { needs, bindings, making, changes } = declareFor(
    index,
    owner,
    lines.map((l) => l.binding!),
    wishes,
  );
  const after = making.length === 0 ? index : afterwards(index, changes);
  const then = after?.assets[after.assetAt.get(owner.decl.id) ?? -1];
  const reasons = bindings.map((b) =>
    after && then ? checkLine(after, then, b) : checkLine(index, owner, b),
  );
  return { needs, changes, reasons };
}
/** The project with what is made; null where that cannot be, such as a thing placed twice. */
function afterwards(index: ProjectIndex, changes: readonly Change[]): ProjectIndex | null {
  try {
    return indexProject(applyChanges(index.project, changes).project);
  } catch (error) {
    if (error instanceof EditRefused) return null;
    throw error;
  }
}
function additions(owner: AssetIndex, lines: readonly Pick<PastedLine, 'binding'>[]): Change[] {
  return lines.map(({ binding }, i): Change => ({
    op: 'insert',
    list: 'bindings',
    asset: owner.decl.id,
    index: owner.bindings.length + i,
    item: binding!,
  }));
}

/** What is made, in one line: `plate-1 of the new prefab Plate, onStepped, light and #night`. */
export function needsText(needs: readonly Need[]): string {
  const fresh = new Set(needs.flatMap((n) => (n.kind === 'asset' ? [n.name] : [])));
  const words = needs.flatMap(({ kind, name, of, text }): string[] => {
    // `prefab Plate`, or a widget.
    if (kind === 'asset') return [`the ${text}`];
    if (kind === 'channel') return [`#${name}`];
    // What a new prefab declares goes without saying whose it is.
    return [kind === 'placement' || fresh.has(of) ? name : `${name} of ${of}`];
  });
  const shown =
    words.length > MOST_TOLD
      ? [...words.slice(0, MOST_TOLD - 1), `${words.length - MOST_TOLD + 1} more`]
      : words;
  return shown.length > 1 ? `${shown.slice(0, -1).join(', ')} and ${shown.at(-1)}` : (shown[0] ?? '');
}
const MOST_TOLD = 8;
