import { applyChanges, overlap, type Change, type Project } from '@oquel/core';
import type { Edits, HistoryStep, LoggedEdit, OpenedProject } from '../src/api/client.js';
import { ApiProblem } from '../src/api/problem.js';
import { changesOf, labelOf, type Entry } from '../src/session/queue/entry.js';

interface Logged extends LoggedEdit {
  of: number | null;
  state: 'done' | 'undone' | 'dropped' | null;
  inverse: Change[];
}

/** The server as a model: the rules of its edits, in memory, in the plainest way. */
export class ModelServer {
  project: Project;
  readonly log: Logged[] = [];
  /** Answers in one go; small, so that opening anew happens. */
  answered = 3;

  constructor(readonly first: Project) {
    this.project = first;
  }
  get version(): number {
    return this.log.length + 1;
  }

  open(author: string): OpenedProject {
    const { version, project: document } = this;
    return { id: 'p', version, document, ...this.ahead(author) };
  }
  since(have: number, author: string): Edits {
    const after = this.log.filter((e) => e.version > have);
    const edits = after.slice(0, this.answered).map(({ of: _of, state, inverse: _inverse, ...e }) => ({
      ...e,
      inForce: state === 'done',
    }));
    return { version: this.version, edits, complete: edits.length === after.length, ...this.ahead(author) };
  }
  /** @throws ApiProblem */
  send(entry: Entry, have: number, author: string): Edits {
    if (!this.log.some((e) => e.key === entry.key)) this.commit(entry, author);
    return this.since(have, author);
  }

  private commit(entry: Entry, author: string): void {
    const { job } = entry;
    if (job.way === 'edit') {
      const changes = [...changesOf(entry)];
      const seen = new Set(entry.seen);
      const theirs = this.log.filter(
        (e) => e.version > entry.base && !seen.has(e.key!) && overlap(e.changes, changes).length > 0,
      );
      if (theirs.length > 0) throw refused('stale-edit', { theirs });
      const append = this.ready(entry, author, 'edit', changes);
      this.dropUndone(author);
      append(null);
    } else if (job.way === 'undo' || job.way === 'redo') {
      const [next] = this.ahead(author)[job.way];
      if (!next) throw refused(`nothing-to-${job.way}`);
      if (job.version !== next.version) throw refused('not-next', { next });
      const edit = this.log[next.version - 2];
      this.refuseDependedOn(edit);
      const append = this.ready(entry, author, job.way, job.way === 'undo' ? edit.inverse : edit.changes);
      edit.state = job.way === 'undo' ? 'undone' : 'done';
      if (edit.of !== null) this.log[edit.of - 2].state = job.way === 'undo' ? 'done' : 'dropped';
      append(edit.version);
    } else if (job.way === 'take-back') {
      const edit = this.log[job.version - 2];
      if (edit?.state !== 'done') throw refused('not-in-force');
      this.refuseDependedOn(edit);
      const append = this.ready(entry, author, 'edit', edit.inverse);
      this.dropUndone(author);
      edit.state = 'dropped';
      append(edit.version);
    } else throw new Error('not in the model');
  }
  private refuseDependedOn(edit: Logged): void {
    const later = this.log.filter(
      (e) => e.version > edit.version && e.state === 'done' && overlap(e.changes, edit.changes).length > 0,
    );
    if (later.length > 0) throw refused('depended-on');
  }
  private dropUndone(author: string): void {
    for (const e of this.log) if (e.author === author && e.state === 'undone') e.state = 'dropped';
  }
  /** Applies the changes; what is then appended is the only thing that remains to be done. */
  private ready(
    entry: Entry,
    author: string,
    kind: Logged['kind'],
    changes: Change[],
  ): (of: number | null) => void {
    let applied: ReturnType<typeof applyChanges>;
    try {
      applied = applyChanges(this.project, changes);
    } catch (error) {
      throw refused('edit-no-item', { detail: String(error) });
    }
    return (of) => {
      this.log.push({
        version: this.version + 1,
        kind,
        label: labelOf(entry),
        who: entry.who,
        author,
        at: '',
        inForce: kind === 'edit',
        changes,
        inverse: applied.inverse,
        key: entry.key,
        of,
        state: kind === 'edit' ? 'done' : null,
      });
      this.project = applied.project;
    };
  }
  private ahead(author: string): { undo: HistoryStep[]; redo: HistoryStep[] } {
    const own = (state: string): HistoryStep[] =>
      this.log
        .filter((e) => e.author === author && e.state === state)
        .map(({ version, label }) => ({ version, label }));
    return { undo: own('done').reverse(), redo: own('undone') };
  }
}

export function refused(type: string, more: object = {}): ApiProblem {
  const body = { type: `urn:oquel:problem:${type}`, title: type, status: 409, detail: type, ...more };
  return new ApiProblem(body);
}
