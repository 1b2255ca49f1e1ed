import { Injectable } from '@nestjs/common';
import { append, overlap, type Change } from '@oquel/core';
import { sql } from 'kysely';
import type { Reader, Tx } from '../database/database.js';
import type { EditState } from '../database/schema.js';
import { LIMITS } from '../limits.js';

export interface LoggedEdit {
  version: number;
  kind: 'edit' | 'undo' | 'redo';
  label: string;
  who: string;
  author: string | null;
  at: Date;
  /** An edit that has not been undone meanwhile. */
  inForce: boolean;
  changes: Change[];
  /** Given by the client that made it. */
  key: string | null;
}
export interface LoggedEdits {
  edits: LoggedEdit[];
  /** Whether these are all. */
  complete: boolean;
}
/** An edit that undo would take back, or redo would bring again. */
export interface HistoryStep {
  version: number;
  label: string;
}
export interface Ahead {
  /** One's own edits, the next one first; a bounded number of them. */
  undo: HistoryStep[];
  redo: HistoryStep[];
}
export interface StackEdit extends HistoryStep {
  state: EditState;
  author: string | null;
  of: number | null;
  changes: Change[];
  inverse: Change[];
}

/** Versions are whole numbers that the database can hold. */
export const MAX_VERSION = 2 ** 31 - 1;
const COLUMNS = ['version', 'kind', 'state', 'label', 'who', 'author', 'at', 'changes', 'key'] as const;

/** The append-only log of edits, with what undo and redo would take from it. */
@Injectable()
export class EditLog {
  /**
   * Edits after a version, oldest first; incomplete where there are too many for one answer. Cost: what is answered.
   */
  since(k: Reader, id: string, version: number, to?: number): Promise<LoggedEdits> {
    return this.next(k, id, version, LIMITS.edits.answered, to);
  }

  /**
   * Edits after a version that touch the same as the changes do, but for those that are known to their author. At most
   * a bounded number is given; all are looked at, some at a time. Cost: the edits after that version.
   */
  async meeting(
    k: Reader,
    id: string,
    version: number,
    changes: readonly Change[],
    known: (edit: LoggedEdit) => boolean,
  ): Promise<LoggedEdit[]> {
    const met: LoggedEdit[] = [];
    for (let from = version; met.length < LIMITS.edits.named;) {
      const { edits, complete } = await this.next(k, id, from, LIMITS.edits.page);
      append(
        met,
        edits.filter((e) => !known(e) && overlap(e.changes, changes).length > 0),
      );
      if (complete) break;
      from = edits[edits.length - 1].version;
    }
    return met.slice(0, LIMITS.edits.named);
  }

  /** Whether the log has every edit after a version: its beginning may have been thinned by age. */
  async reaches(k: Reader, id: string, version: number): Promise<boolean> {
    const next = await k
      .selectFrom('edits')
      .select('version')
      .where('project_id', '=', id)
      .where('version', '>', version)
      .orderBy('version')
      .limit(1)
      .executeTakeFirst();
    return next === undefined || next.version === version + 1;
  }

  /** Whether there is an edit after that version which is not among the keys. */
  async hasOthers(k: Reader, id: string, version: number, seen: readonly string[]): Promise<boolean> {
    let query = k
      .selectFrom('edits')
      .select('version')
      .where('project_id', '=', id)
      .where('version', '>', version);
    if (seen.length > 0) query = query.where((e) => e.or([e('key', 'is', null), e('key', 'not in', seen)]));
    return (await query.limit(1).executeTakeFirst()) !== undefined;
  }

  /** The version of the edit with that key, if it has been made. */
  async versionOf(k: Reader, id: string, key: string): Promise<number | null> {
    const row = await k
      .selectFrom('edits')
      .select('version')
      .where('project_id', '=', id)
      .where('key', '=', key)
      .executeTakeFirst();
    return row?.version ?? null;
  }

  /** One edit with its inverse; null where there is none at that version. */
  async at(k: Reader, id: string, version: number): Promise<StackEdit | null> {
    const row = await k
      .selectFrom('edits')
      .select(['version', 'label', 'state', 'author', 'of_version as of', 'changes', 'inverse'])
      .where('project_id', '=', id)
      .where('version', '=', version)
      .executeTakeFirst();
    if (!row || row.state === null) return null;
    return {
      ...row,
      state: row.state,
      changes: JSON.parse(row.changes) as Change[],
      inverse: JSON.parse(row.inverse) as Change[],
    };
  }
  /** Length of the changes and inverse of an edit, in characters. */
  async weight(k: Reader, id: string, version: number): Promise<number> {
    const row = await k
      .selectFrom('edits')
      .select(sql<number>`octet_length(changes) + octet_length(inverse)`.as('bytes'))
      .where('project_id', '=', id)
      .where('version', '=', version)
      .executeTakeFirst();
    return row?.bytes ?? 0;
  }

  async setState(tx: Tx, id: string, version: number, state: EditState): Promise<void> {
    await tx
      .updateTable('edits')
      .set({ state })
      .where('project_id', '=', id)
      .where('version', '=', version)
      .execute();
  }
  /** What somebody has undone cannot be redone once they do something else. What others have undone stays. */
  async dropUndone(tx: Tx, id: string, author: string | null): Promise<void> {
    await tx
      .updateTable('edits')
      .set({ state: 'dropped' })
      .where('project_id', '=', id)
      .where('state', '=', 'undone')
      .where(sql<boolean>`author is not distinct from ${author}::uuid`)
      .execute();
  }

  /** What undo and redo would take of somebody's own edits. Reads labels alone. */
  async ahead(k: Reader, id: string, author: string | null): Promise<Ahead> {
    const [undo, redo] = await Promise.all([
      this.steps(k, id, author, 'done', 'desc'),
      this.steps(k, id, author, 'undone', 'asc'),
    ]);
    return { undo, redo };
  }
  private steps(
    k: Reader,
    id: string,
    author: string | null,
    state: EditState,
    order: 'asc' | 'desc',
  ): Promise<HistoryStep[]> {
    return k
      .selectFrom('edits')
      .select(['version', 'label'])
      .where('project_id', '=', id)
      .where('state', '=', state)
      .where((e) => (author === null ? e('author', 'is', null) : e('author', '=', author)))
      .orderBy('version', order)
      .limit(LIMITS.edits.steps)
      .execute();
  }

  /** As many edits after a version as there is room for, at least one if there is one. */
  private async next(
    k: Reader,
    id: string,
    version: number,
    most: number,
    to = MAX_VERSION,
  ): Promise<LoggedEdits> {
    const sizes = await k
      .selectFrom('edits')
      .select(['version', sql<number>`octet_length(changes)`.as('bytes')])
      .where('project_id', '=', id)
      .where('version', '>', version)
      .where('version', '<=', to)
      .orderBy('version')
      .limit(most + 1)
      .execute();
    let bytes = 0;
    let last = version;
    for (const [i, edit] of sizes.entries()) {
      bytes += edit.bytes;
      if (i >= most || (i > 0 && bytes > LIMITS.edits.answeredBytes)) break;
      last = edit.version;
    }
    if (last === version) return { edits: [], complete: true };
    const rows = await k
      .selectFrom('edits')
      .select(COLUMNS)
      .where('project_id', '=', id)
      .where('version', '>', version)
      .where('version', '<=', last)
      .orderBy('version')
      .execute();
    const edits = rows.map(({ state, ...r }) => ({
      ...r,
      inForce: state === 'done',
      changes: JSON.parse(r.changes) as Change[],
    }));
    return { edits, complete: last === sizes[sizes.length - 1].version };
  }
}
