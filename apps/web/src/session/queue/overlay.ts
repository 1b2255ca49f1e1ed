import { applyChanges, overlap, type Change, type Project } from '@oquel/core';
import type { LoggedEdit } from '../../api/client.js';
import { changesOf, type Entry } from './entry.js';

/** An edit as it stands on the screen. */
export interface Shown {
  changes: readonly Change[];
  inverse: readonly Change[];
  after: Project;
}
export interface Pending {
  entry: Entry;
  /** Null for what shows only when the server has answered, or cannot be applied. */
  shown: Shown | null;
}
/** How one's own stored edits can be undone and redone without asking. */
const REMEMBERED = 200;

/**
 * What the server is known to have, with the edits that wait on top of it: what is on the screen. Whatever comes from the
 * server goes underneath, and the waiting edits are applied anew, so that the screen and the server agree once all is sent.
 */
export class Overlay {
  pendings: Pending[] = [];
  /** Changes and inverses of one's own edits, by version. */
  private readonly own = new Map<number, { changes: readonly Change[]; inverse: readonly Change[] }>();

  constructor(
    public version: number,
    private confirmed: Project,
  ) {}

  get project(): Project {
    for (let i = this.pendings.length - 1; i >= 0; i--) {
      const { shown } = this.pendings[i];
      if (shown) return shown.after;
    }
    return this.confirmed;
  }

  /**
   * Puts an entry on top. Returns the changes that this makes on the screen. With `must` it throws where an edit cannot
   * be applied, and nothing is put anywhere. @throws EditRefused
   */
  push(entry: Entry, must: boolean): readonly Change[] {
    const shown = must && entry.job.way === 'edit' ? this.apply(changesOf(entry)) : this.show(entry);
    this.pendings.push({ entry, shown });
    return shown?.changes ?? [];
  }

  /** Takes entries out. Returns the changes that this makes on the screen. */
  remove(keys: ReadonlySet<string>): Change[] {
    return this.renew(() => {
      this.pendings = this.pendings.filter((p) => !keys.has(p.entry.key));
      return [];
    });
  }

  /**
   * Takes in what the server has done, oldest first, beginning with the next version. An entry among it waits no more.
   * Returns the changes that this makes on the screen. @throws EditRefused where the two do not fit
   */
  take(edits: readonly LoggedEdit[], isOwn: (edit: LoggedEdit) => boolean): Change[] {
    const [only] = edits;
    const [first] = this.pendings;
    if (
      edits.length === 1 &&
      first?.shown &&
      first.entry.key === only.key &&
      sameChanges(first.shown, only)
    ) {
      this.note(only, first.shown.inverse, isOwn(only));
      this.confirmed = first.shown.after;
      this.pendings.shift();
      return [];
    }
    return this.renew(() => {
      const changes: Change[] = [];
      for (const edit of edits) {
        const applied = applyChanges(this.confirmed, edit.changes);
        this.confirmed = applied.project;
        this.note(edit, applied.inverse, isOwn(edit));
        this.pendings = this.pendings.filter((p) => p.entry.key !== edit.key);
        for (const change of edit.changes) changes.push(change);
      }
      return changes;
    });
  }

  /** Begins anew with what the server has. */
  reset(version: number, project: Project): void {
    this.version = version;
    this.confirmed = project;
    this.showAll();
  }

  /** What has been stored becomes part of what an entry's author has seen, where it makes no difference to them. */
  private note(edit: LoggedEdit, inverse: readonly Change[], isOwn: boolean): void {
    this.version = edit.version;
    const changes = edit.changes;
    if (isOwn && edit.kind === 'edit') {
      this.own.set(edit.version, { changes, inverse });
      for (const oldest of this.own.keys()) {
        if (this.own.size <= REMEMBERED) break;
        this.own.delete(oldest);
      }
    }
    for (const { entry } of this.pendings) {
      const { job } = entry;
      if ((job.way === 'undo' || job.way === 'redo') && edit.key !== null && job.of === edit.key) {
        job.version = edit.version;
      }
      const seen = edit.key !== null && entry.seen.includes(edit.key);
      const apart = job.way === 'edit' && overlap(changes, changesOf(entry)).length === 0;
      if (entry.base !== edit.version - 1 || !(seen || apart)) continue;
      entry.base = edit.version;
      if (seen) entry.seen = entry.seen.filter((key) => key !== edit.key);
    }
  }

  /** Does something underneath, and applies what waits anew. */
  private renew(underneath: () => Change[]): Change[] {
    const delta: Change[] = [];
    for (let i = this.pendings.length - 1; i >= 0; i--) {
      for (const change of this.pendings[i].shown?.inverse ?? []) delta.push(change);
    }
    for (const change of underneath()) delta.push(change);
    this.showAll();
    for (const { shown } of this.pendings) for (const change of shown?.changes ?? []) delta.push(change);
    return delta;
  }
  private showAll(): void {
    const all = this.pendings;
    this.pendings = [];
    for (const { entry } of all) this.pendings.push({ entry, shown: this.show(entry) });
  }
  private show(entry: Entry): Shown | null {
    const changes = this.localChanges(entry);
    if (!changes) return null;
    try {
      return this.apply(changes);
    } catch {
      // The server will say why.
      return null;
    }
  }
  private apply(changes: readonly Change[]): Shown {
    const { project, inverse } = applyChanges(this.project, changes);
    return { changes, inverse, after: project };
  }
  /** What an entry does, as far as it is known here. */
  private localChanges(entry: Entry): readonly Change[] | null {
    const { job } = entry;
    if (job.way === 'edit') return job.changeSet.changes;
    if (job.way !== 'undo' && job.way !== 'redo') return null;
    const side = job.way === 'undo' ? 'inverse' : 'changes';
    const waiting = this.pendings.find((p) => p.entry.key === job.of)?.shown;
    if (waiting) return waiting[side];
    return (job.version !== null && this.own.get(job.version)?.[side]) || null;
  }
}

function sameChanges(shown: Shown, edit: LoggedEdit): boolean {
  return JSON.stringify(shown.changes) === JSON.stringify(edit.changes);
}
