import type { Change, Project } from '@oquel/core';
import type { OpenedProject } from '../../api/client.js';
import { groupOf, isUndone, labelOf, type Entry, type Job, type Parked } from './entry.js';
import { KeptEntries } from './kept-entries.js';
import { Overlay } from './overlay.js';
import { ParkedEntries } from './parked-entries.js';
import type { EntryStore, QueueListener, QueueOptions } from './ports.js';

/** Entries that may wait. */
export const MAX_WAITING = 1000;

/** The entries of a queue: those that wait on top of what is stored, and those that are parked. */
export abstract class QueueEntries {
  protected readonly overlay: Overlay;
  protected readonly parked = new ParkedEntries();
  protected readonly keeper: KeptEntries;
  protected lastOrder = 0;

  constructor(
    opened: OpenedProject,
    store: EntryStore,
    protected readonly options: QueueOptions,
    protected readonly listener: QueueListener,
  ) {
    this.overlay = new Overlay(opened.version, opened.document);
    this.keeper = new KeptEntries(store, () => this.changed());
  }
  /** Sends what waits. */
  protected abstract send(): void;

  get project(): Project {
    return this.overlay.project;
  }
  /** The version that the server is known to have. */
  get version(): number {
    return this.overlay.version;
  }
  /** Entries that the server does not have yet. */
  get waiting(): number {
    return this.overlay.pendings.length;
  }
  protected isFull(): boolean {
    if (this.waiting < MAX_WAITING) return false;
    this.listener.notice(
      `${MAX_WAITING} edits wait for the server; no more can be made until it answers`,
      'refused',
    );
    return true;
  }
  protected entry(job: Job): Entry {
    this.lastOrder = Math.max(this.lastOrder + 1, this.options.now());
    const { project, client, who, newKey } = this.options;
    return {
      key: newKey(),
      project,
      client,
      order: this.lastOrder,
      who: who(),
      base: this.version,
      seen: this.overlay.pendings.filter((p) => p.shown).map((p) => p.entry.key),
      job,
      parked: null,
    };
  }
  /** Puts entries that were kept back to where they were. */
  protected adopt(entries: readonly Entry[]): void {
    const mine = entries.map((e): Entry => ({ ...e, client: this.options.client }));
    const changes: Change[] = [];
    for (const entry of mine) {
      if (entry.parked) this.parked.add([entry]);
      else for (const change of this.overlay.push(entry, false)) changes.push(change);
    }
    this.keeper.keep(mine.filter((e, i) => e.client !== entries[i].client));
    const last = mine.findLast((e) => !e.parked);
    if (last && changes.length > 0)
      this.listener.shown(this.project, changes, { label: labelOf(last), who: null });
  }
  /** Parks an entry with all that builds on it; what takes it back goes with it for good. */
  protected setAside(entry: Entry, parked: Omit<Parked, 'group'>): void {
    const waiting = this.overlay.pendings.map((p) => p.entry);
    const later = waiting.slice(waiting.indexOf(entry) + 1);
    const group = groupOf(entry, later);
    const kept = group.filter((e) => e === entry || e.job.way === 'edit').filter((e) => !isUndone(e, group));
    // Its author has undone it already: nothing is left to choose.
    if (kept.length === 0) return this.leaveOut(group);
    const changes = this.overlay.remove(new Set(group.map((e) => e.key)));
    this.forget(group.filter((e) => !kept.includes(e)));
    this.parked.add(kept);
    this.park(kept, { ...parked, group: kept[0].key });
    this.reportRemoval(changes, entry);
  }
  protected park(entries: readonly Entry[], parked: Parked): void {
    for (const entry of entries) entry.parked = parked;
    this.keeper.keep(entries);
  }
  /** Puts a parked group at the end of what waits, as if it were asked for now. */
  protected redoGroup(group: readonly Entry[]): void {
    this.parked.remove(group);
    const { how, words } = group[0].parked!;
    const failed = how === 'aside' && group[0].parked!.theirs.length === 0;
    for (const old of group) {
      // What the server failed at keeps its key and what its author saw; a choice is made upon what is seen now.
      const entry: Entry = failed ? { ...old, parked: null } : { ...this.entry(old.job), who: old.who };
      try {
        const changes = this.overlay.push(entry, true);
        this.listener.shown(this.project, changes, { label: labelOf(entry), who: null });
        this.keeper.keep([entry]);
        if (!failed) this.forget([old]);
      } catch (error) {
        old.parked = { ...old.parked!, group: old.key, how: 'aside', words };
        this.parked.add([old]);
        this.keeper.keep([old]);
        this.listener.notice(error instanceof Error ? error.message : String(error), 'refused');
      }
    }
    this.changed();
    this.send();
  }
  /** Takes entries out that are stored, or come to nothing. */
  protected leaveOut(entries: readonly Entry[]): void {
    const keys = new Set(entries.map((e) => e.key));
    if (this.overlay.pendings.some((p) => keys.has(p.entry.key))) {
      this.reportRemoval(this.overlay.remove(keys), entries[0]);
    }
    this.forget(entries);
  }
  protected reportRemoval(changes: readonly Change[], entry: Entry): void {
    if (changes.length > 0) {
      this.listener.shown(this.project, changes, { label: `not stored: ${labelOf(entry)}`, who: null });
    }
  }

  protected forget(entries: readonly Entry[]): void {
    this.keeper.forget(entries.map((e) => e.key));
  }
  protected changed(): void {
    this.listener.changed();
  }
}
