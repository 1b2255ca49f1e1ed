import { Injectable } from '@nestjs/common';
import type { Change } from '@oquel/core';
import type { Database, Tx } from '../database/database.js';

type Reader = Database['k'] | Tx;
export interface LoggedEdit {
  version: number;
  kind: 'edit' | 'undo' | 'redo';
  label: string;
  who: string;
  at: Date;
  /** An edit that has not been undone meanwhile. */
  inForce: boolean;
  changes: Change[];
  /** Given by the client that made it. */
  key: string | null;
}
export interface StackEdit {
  version: number;
  label: string;
  changes: Change[];
  inverse: Change[];
}

/** The append-only log of edits, with what undo and redo would take from it. */
@Injectable()
export class EditLog {
  /** Edits after a version, oldest first. */
  async since(k: Reader, id: string, version: number): Promise<LoggedEdit[]> {
    const rows = await k
      .selectFrom('edits')
      .select(['version', 'kind', 'state', 'label', 'who', 'at', 'changes', 'key'])
      .where('project_id', '=', id)
      .where('version', '>', version)
      .orderBy('version')
      .execute();
    return rows.map(({ state, ...r }) => ({
      ...r,
      inForce: state === 'done',
      changes: JSON.parse(r.changes) as Change[],
    }));
  }

  /** Whether an edit with that key has been made. */
  async has(k: Reader, id: string, key: string): Promise<boolean> {
    const row = await k
      .selectFrom('edits')
      .select('version')
      .where('project_id', '=', id)
      .where('key', '=', key)
      .executeTakeFirst();
    return row !== undefined;
  }

  /** The edit that undo takes back (the last in force) or that redo brings again (the first undone). */
  async next(k: Reader, id: string, way: 'undo' | 'redo'): Promise<StackEdit | null> {
    const row = await k
      .selectFrom('edits')
      .select(['version', 'label', 'changes', 'inverse'])
      .where('project_id', '=', id)
      .where('state', '=', way === 'undo' ? 'done' : 'undone')
      .orderBy('version', way === 'undo' ? 'desc' : 'asc')
      .limit(1)
      .executeTakeFirst();
    return row ? parsed(row) : null;
  }
  /** One edit in force, by the version that it brought about. */
  async inForce(k: Reader, id: string, version: number): Promise<StackEdit | null> {
    const row = await k
      .selectFrom('edits')
      .select(['version', 'label', 'changes', 'inverse'])
      .where('project_id', '=', id)
      .where('version', '=', version)
      .where('state', '=', 'done')
      .executeTakeFirst();
    return row ? parsed(row) : null;
  }
  async ahead(k: Reader, id: string): Promise<{ undo: string | null; redo: string | null }> {
    const undo = await this.next(k, id, 'undo');
    const redo = await this.next(k, id, 'redo');
    return { undo: undo?.label ?? null, redo: redo?.label ?? null };
  }
}

function parsed<T extends { changes: string; inverse: string }>(
  row: T,
): Omit<T, 'changes' | 'inverse'> & { changes: Change[]; inverse: Change[] } {
  return {
    ...row,
    changes: JSON.parse(row.changes) as Change[],
    inverse: JSON.parse(row.inverse) as Change[],
  };
}
