import { overlap, type Change, type ChangeSet } from '@oquel/core';

/** What somebody asks for. Everything in it is data, so that it outlives the window. */
export type Job =
  | { way: 'edit'; changeSet: ChangeSet }
  | {
      way: 'undo' | 'redo';
      label: string;
      /** The edit that is meant: by the version that it brought about, or by its key while it has none. */
      version: number | null;
      of: string | null;
    }
  | { way: 'take-back'; version: number; label: string }
  | { way: 'restore'; build: string; label: string }
  | { way: 'replace'; text: string; label: string };

/** A job with what its author had seen when they asked for it. */
export interface Entry {
  /** Names it, to the server too: what is sent twice is done once. */
  key: string;
  project: string;
  /** The window that will send it. */
  client: string;
  /** Where it stands among the entries of a project: later ones have a greater number. */
  order: number;
  /** Who asks, as it will stand in the history. */
  who: string;
  /** The version that its author saw. */
  base: number;
  /** Keys of their own edits that were on the screen besides. */
  seen: string[];
  job: Job;
  /** Null while it waits for the server; otherwise why it does not. */
  parked: Parked | null;
}
/** Why an entry is not sent. Entries that build on one another are parked as one group. */
export interface Parked {
  /** The key of the group's first entry. */
  group: string;
  /** `met`: somebody changed the same, and a choice is needed. `aside`: kept until it is tried again or dropped. */
  how: 'met' | 'aside';
  words: string;
  /** Edits of others that it met. */
  theirs: { who: string; label: string; changes: Change[] }[];
}

export function labelOf({ job }: Entry): string {
  return job.way === 'edit' ? job.changeSet.label : job.label;
}
/** The changes that an entry asks for itself; none where the server works them out. */
export function changesOf({ job }: Entry): readonly Change[] {
  return job.way === 'edit' ? job.changeSet.changes : [];
}

/** Whether a later entry builds on an earlier one, so that it means nothing without it. */
export function buildsOn(later: Entry, earlier: Entry): boolean {
  const { job } = later;
  if (job.way === 'undo' || job.way === 'redo') return job.of === earlier.key;
  return overlap(changesOf(earlier), changesOf(later)).length > 0;
}
/** An entry with all later ones that build on it, directly or through others. */
export function groupOf(first: Entry, later: readonly Entry[]): Entry[] {
  const group = [first];
  for (const entry of later) if (group.some((e) => buildsOn(entry, e))) group.push(entry);
  return group;
}
/** Whether the last that its author asked of an entry was to undo it. */
export function isUndone(entry: Entry, group: readonly Entry[]): boolean {
  const step = group.findLast(
    ({ job }) => (job.way === 'undo' || job.way === 'redo') && job.of === entry.key,
  );
  return step?.job.way === 'undo';
}
