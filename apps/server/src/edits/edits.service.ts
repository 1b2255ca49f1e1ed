import { Inject, Injectable } from '@nestjs/common';
import {
  appendRun,
  applyChanges,
  changesBetween,
  overlap,
  readChangeSet,
  type Applied,
  type Change,
  type ItemChange,
  type Project,
} from '@oquel/core';
import { Database, type Tx } from '../database/database.js';
import { tell } from '../database/notices.js';
import { ProblemError } from '../http/problem.js';
import { ProjectStore, type StoredProject } from '../projects/project.store.js';
import type { EditDto, EditedDto, StepDto, TakeBackDto } from './edit.dto.js';
import { EditLog, type LoggedEdit } from '../projects/edit.log.js';
import { appendItems, removeItems, removeRun, writeHeads, writeItem } from './edit.rows.js';

interface Entry {
  kind: 'edit' | 'undo' | 'redo';
  of: number | null;
  label: string;
  who: string;
  key?: string;
}

/** Edits, undo and redo: each is one transaction that locks the project, changes its rows and appends to the log. */
@Injectable()
export class EditsService {
  constructor(
    @Inject(Database) private readonly db: Database,
    @Inject(ProjectStore) private readonly store: ProjectStore,
    @Inject(EditLog) private readonly log: EditLog,
  ) {}

  /**
   * Applies an edit. One made against an older version is carried over if nothing since touches what it touches.
   * @throws ProblemError 409 with both sides where it does; EditRefused; BrokenDocument
   */
  async edit(id: string, dto: EditDto): Promise<EditedDto> {
    const { changes } = readChangeSet({ label: dto.label, changes: dto.changes });
    return this.commit(id, dto.base, async (tx, version) => {
      if (dto.key !== undefined && (await this.log.has(tx, id, dto.key))) return null;
      if (dto.base > version) throw unknownVersion(dto.base, version);
      const missed = await this.log.since(tx, id, dto.base);
      refuseOverlap(missed, changes);
      await this.dropUndone(tx, id);
      return { changes, entry: { kind: 'edit', of: null, label: dto.label, who: dto.who, key: dto.key } };
    });
  }

  /** Takes the last edit back, or brings the last undone one again. @throws ProblemError 409 when there is none */
  async step(id: string, way: 'undo' | 'redo', { who, base, key }: StepDto): Promise<EditedDto> {
    return this.commit(id, base, async (tx) => {
      if (key !== undefined && (await this.log.has(tx, id, key))) return null;
      const edit = await this.log.next(tx, id, way);
      if (!edit)
        throw new ProblemError(409, `nothing-to-${way}`, `Nothing to ${way}`, `there is no edit to ${way}`);
      await tx
        .updateTable('edits')
        .set({ state: way === 'undo' ? 'undone' : 'done' })
        .where('project_id', '=', id)
        .where('version', '=', edit.version)
        .execute();
      const entry: Entry = { kind: way, of: edit.version, label: edit.label, who, key };
      return { changes: way === 'undo' ? edit.inverse : edit.changes, entry };
    });
  }

  /**
   * Takes an older edit back by an edit of its own. @throws ProblemError 409 when it is not in force, or when later
   * edits touch what it touched: they are named
   */
  async takeBack(id: string, { who, base, version, key }: TakeBackDto): Promise<EditedDto> {
    return this.commit(id, base, async (tx) => {
      if (key !== undefined && (await this.log.has(tx, id, key))) return null;
      const edit = await this.log.inForce(tx, id, version);
      if (!edit) {
        const detail = `there is no edit ${version} that is in force; it may have been undone`;
        throw new ProblemError(409, 'not-in-force', 'Nothing to take back', detail);
      }
      const later = (await this.log.since(tx, id, version)).filter(
        (e) => e.inForce && overlap(e.changes, edit.changes).length > 0,
      );
      if (later.length > 0) throw dependedOn(edit.label, later);
      await this.dropUndone(tx, id);
      const entry: Entry = {
        kind: 'edit',
        of: null,
        label: `took back: ${edit.label}`.slice(0, 500),
        who,
        key,
      };
      return { changes: edit.inverse, entry };
    });
  }

  /**
   * Makes the project like another one, by one edit that can be undone. With `strict` the base must be the stored
   * version, since somebody has looked at what it will do. @throws ProblemError 409 when it is, or when nothing differs
   */
  async makeLike(
    id: string,
    { who, base, key }: StepDto,
    target: Project,
    label: string,
    strict: boolean,
  ): Promise<EditedDto> {
    return this.commit(id, base, async (tx, version, project) => {
      if (key !== undefined && (await this.log.has(tx, id, key))) return null;
      if (strict && base !== version) throw changedMeanwhile(base, version);
      const changes = changesBetween(project, target);
      if (changes.length === 0) {
        throw new ProblemError(409, 'no-difference', 'Nothing differs', 'the project is like that already');
      }
      await this.dropUndone(tx, id);
      return { changes, entry: { kind: 'edit', of: null, label: label.slice(0, 500), who, key } };
    });
  }

  async since(id: string, version: number): Promise<LoggedEdit[]> {
    await this.store.version(this.db.k, id);
    return this.log.since(this.db.k, id, version);
  }

  /** What was undone cannot be brought again once something else is done. */
  private async dropUndone(tx: Tx, id: string): Promise<void> {
    await tx
      .updateTable('edits')
      .set({ state: 'dropped' })
      .where('project_id', '=', id)
      .where('state', '=', 'undone')
      .execute();
  }

  private async commit(
    id: string,
    base: number,
    /** Null when the edit has been made already. */
    prepare: (
      tx: Tx,
      version: number,
      project: Project,
    ) => Promise<{ changes: Change[]; entry: Entry } | null>,
  ): Promise<EditedDto> {
    let after: StoredProject | null = null;
    const result = await this.db.k.transaction().execute(async (tx) => {
      const version = await this.store.version(tx, id, true);
      const { project } = await this.store.openAt(tx, id, version);
      const prepared = await prepare(tx, version, project);
      if (!prepared) {
        return { version, edits: await this.log.since(tx, id, base), ...(await this.log.ahead(tx, id)) };
      }
      const { changes, entry } = prepared;
      const applied = await this.apply(tx, id, project, changes);
      after = { version: version + 1, project: applied.project };
      await this.append(tx, id, version + 1, entry, changes, applied.inverse);
      const edits = await this.log.since(tx, id, base);
      return { version: version + 1, edits, ...(await this.log.ahead(tx, id)) };
    });
    if (after) this.store.keep(id, after);
    return result;
  }

  /**
   * Applies the changes to the document one by one and writes each to its rows. Heads are written before an item is, since
   * it may belong to an asset that has just come, and at the end.
   */
  private async apply(tx: Tx, id: string, project: Project, changes: readonly Change[]): Promise<Applied> {
    const inverses: Change[][] = [];
    let current = project;
    let written = project;
    for (let i = 0; i < changes.length;) {
      const appended = appendRun(current, changes, i);
      const run = Math.max(1, appended, removeRun(changes, i));
      const part = changes.slice(i, i + run);
      const applied = applyChanges(current, part, i);
      const [change] = part;
      if (appended > 1) await appendItems(tx, id, part as ItemChange[], current);
      else if (run > 1) await removeItems(tx, id, part as ItemChange[]);
      else if (change.op !== 'set' && change.op !== 'add' && change.op !== 'drop') {
        await writeItem(tx, id, change, current);
      } else {
        await writeHeads(tx, id, written, applied.project);
        written = applied.project;
      }
      inverses.push(applied.inverse);
      current = applied.project;
      i += run;
    }
    const inverse = inverses.reverse().flat();
    await writeHeads(tx, id, written, current);
    return { project: current, inverse };
  }

  private async append(
    tx: Tx,
    id: string,
    version: number,
    entry: Entry,
    changes: Change[],
    inverse: Change[],
  ): Promise<void> {
    await tx
      .insertInto('edits')
      .values({
        project_id: id,
        version,
        kind: entry.kind,
        of_version: entry.of,
        state: entry.kind === 'edit' ? 'done' : null,
        label: entry.label,
        who: entry.who,
        changes: JSON.stringify(changes),
        inverse: JSON.stringify(inverse),
        key: entry.key ?? null,
      })
      .execute();
    await tx.updateTable('projects').set({ version, updated_at: new Date() }).where('id', '=', id).execute();
    await tell(tx, { what: 'version', project: id });
  }
}

function refuseOverlap(missed: LoggedEdit[], changes: Change[]): void {
  const theirs = missed.filter((edit) => overlap(edit.changes, changes).length > 0);
  if (theirs.length === 0) return;
  const both = [...new Set(theirs.flatMap((edit) => overlap(edit.changes, changes)))];
  const last = theirs[theirs.length - 1];
  throw new ProblemError(
    409,
    'stale-edit',
    'Somebody else changed the same thing',
    `${last.who} has meanwhile done this: ${last.label}; your edit was not stored`,
    { overlap: both, theirs, yours: changes },
  );
}
function dependedOn(label: string, later: readonly LoggedEdit[]): ProblemError {
  const named = later.slice(0, 3).map((e) => `"${e.label}" by ${e.who}`);
  const more = later.length > 3 ? ` and ${later.length - 3} more` : '';
  return new ProblemError(
    409,
    'depended-on',
    'Later edits touch the same',
    `"${label}" cannot be taken back alone: ${named.join(', ')}${more} came after it and touched the same`,
    { later: later.map(({ version, label: l, who }) => ({ version, label: l, who })) },
  );
}
function changedMeanwhile(base: number, version: number): ProblemError {
  return new ProblemError(
    409,
    'changed-meanwhile',
    'The project has changed meanwhile',
    `this was looked at against version ${base}, and the project is at ${version}; look again`,
    { version },
  );
}
function unknownVersion(base: number, version: number): ProblemError {
  return new ProblemError(
    409,
    'unknown-version',
    'Unknown version',
    `the edit is made against version ${base}, but the project is at ${version}; open it again`,
    { version },
  );
}
