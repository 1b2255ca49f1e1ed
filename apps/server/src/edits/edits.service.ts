import { Inject, Injectable } from '@nestjs/common';
import { applyChanges, changesBetween, readChangeSet, type Change, type Project } from '@oquel/core';
import { Database, type Tx } from '../database/database.js';
import { notify } from '../database/notices.js';
import { ProblemError } from '../http/problem.js';
import { LIMITS } from '../limits.js';
import { EditLog, type LoggedEdit, type StackEdit } from '../projects/edit.log.js';
import { ProjectStore, type StoredProject } from '../projects/project.store.js';
import type { AskDto, EditHeadDto, EditsDto, StepDto, TakeBackDto } from './edit.dto.js';
import {
  changedMeanwhile,
  dependedOn,
  notInForce,
  notNext,
  nothingTo,
  stale,
  unknownVersion,
} from './edit.problems.js';
import { writeDifference } from './edit.rows.js';
import { checkSignature } from './signature.js';
import { jsonArray } from './json-array.js';

interface Entry {
  kind: 'edit' | 'undo' | 'redo';
  of: number | null;
  label: string;
}
/** What an edit is about to do, worked out while the project is locked. */
interface Prepared {
  changes: Change[];
  entry: Entry;
  /** The changes are those that were sent. */
  isSent?: boolean;
}
interface Locked {
  tx: Tx;
  version: number;
  project: Project;
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
   * Applies an edit. One made against an older version is carried over if nothing that its author had not seen touches
   * what it touches. @throws ProblemError 409 with both sides where it does; EditRefused; BrokenDocument
   */
  async edit(id: string, dto: EditHeadDto, given: unknown): Promise<EditsDto> {
    const { changes } = readChangeSet({ label: dto.label, changes: given });
    return this.commit(id, dto, async ({ tx }) => {
      const seen = new Set(dto.seen);
      const met = await this.log.meeting(tx, id, dto.base, changes, (e) => e.key !== null && seen.has(e.key));
      if (met.length > 0) throw stale(met, changes);
      await this.log.dropUndone(tx, id, dto.author ?? null);
      return { changes, isSent: true, entry: { kind: 'edit', of: null, label: dto.label } };
    });
  }

  /**
   * Takes one's own last edit back, or brings the last undone one again. @throws ProblemError 409 when it is not the one
   * that is meant, when there is none, or when somebody's later edits touch the same: they are named
   */
  async step(id: string, way: 'undo' | 'redo', dto: StepDto): Promise<EditsDto> {
    return this.commit(id, dto, async ({ tx }) => {
      const ahead = await this.log.ahead(tx, id, dto.author ?? null);
      const [next] = ahead[way];
      if (!next) throw nothingTo(way);
      if (dto.version !== undefined && dto.version !== next.version) throw notNext(way, next);
      const edit = (await this.log.at(tx, id, next.version))!;
      const later = await this.later(tx, id, edit);
      if (later.length > 0) throw dependedOn(edit.label, later);
      await this.log.setState(tx, id, edit.version, way === 'undo' ? 'undone' : 'done');
      await this.afterStep(tx, id, way, edit);
      const changes = way === 'undo' ? edit.inverse : edit.changes;
      return { changes, entry: { kind: way, of: edit.version, label: edit.label } };
    });
  }

  /**
   * Undoes an older edit, anybody's, by an edit of its own. @throws ProblemError 409 when it is not in force, or when
   * later edits touch what it touched: they are named
   */
  async takeBack(id: string, dto: TakeBackDto): Promise<EditsDto> {
    return this.commit(id, dto, async ({ tx }) => {
      const edit = await this.log.at(tx, id, dto.version);
      if (!edit || edit.state !== 'done') throw notInForce(dto.version);
      const later = await this.later(tx, id, edit);
      if (later.length > 0) throw dependedOn(edit.label, later);
      await this.log.dropUndone(tx, id, dto.author ?? null);
      await this.log.setState(tx, id, edit.version, 'dropped');
      const label = `undid: ${edit.label}`.slice(0, 500);
      return { changes: edit.inverse, entry: { kind: 'edit', of: edit.version, label } };
    });
  }

  /**
   * Makes the project like another one, by one edit that can be undone. Nothing may have been changed that whoever asks
   * has not seen. @throws ProblemError 409 where it has, or when nothing differs
   */
  async makeLike(
    id: string,
    dto: AskDto,
    target: Project | ((now: Project) => Project),
    label: string,
  ): Promise<EditsDto> {
    return this.commit(id, dto, async ({ tx, version, project }) => {
      if (await this.log.hasOthers(tx, id, dto.base, dto.seen ?? []))
        throw changedMeanwhile(dto.base, version);
      const changes = changesBetween(project, typeof target === 'function' ? target(project) : target);
      if (changes.length === 0) {
        throw new ProblemError(409, 'no-difference', 'Nothing differs', 'the project is like that already');
      }
      await this.log.dropUndone(tx, id, dto.author ?? null);
      return { changes, entry: { kind: 'edit', of: null, label: label.slice(0, 500) } };
    });
  }

  /** The version of the edit that undo or redo would take; null for none. */
  async meant(id: string, way: 'undo' | 'redo', { version, author }: StepDto): Promise<number | null> {
    if (version !== undefined) return version;
    return (await this.log.ahead(this.db.k, id, author ?? null))[way][0]?.version ?? null;
  }

  /** Whether an edit of the log is too long for the event loop. */
  async isLarge(id: string, version: number | null): Promise<boolean> {
    return version !== null && (await this.log.weight(this.db.k, id, version)) > LIMITS.body.large;
  }

  /** Edits after a version, as far as there is room, and what undo and redo would take. @throws ProblemError 404 */
  async since(id: string, after: number, author: string | null): Promise<EditsDto> {
    const version = await this.store.version(this.db.k, id);
    const [edits, ahead] = await Promise.all([
      this.log.since(this.db.k, id, after),
      this.log.ahead(this.db.k, id, author),
    ]);
    return { version: Math.max(version, edits.edits.at(-1)?.version ?? 0), ...edits, ...ahead };
  }

  /** Edits in force after one that touch the same. */
  private async later(tx: Tx, id: string, edit: StackEdit): Promise<LoggedEdit[]> {
    return this.log.meeting(tx, id, edit.version, edit.changes, (e) => !e.inForce);
  }
  /** An edit that undid another one by itself: with it the other one comes back into force, or goes again. */
  private async afterStep(tx: Tx, id: string, way: 'undo' | 'redo', edit: StackEdit): Promise<void> {
    if (edit.of !== null) await this.log.setState(tx, id, edit.of, way === 'undo' ? 'done' : 'dropped');
  }

  private async commit(
    id: string,
    dto: AskDto & { author?: string },
    prepare: (locked: Locked) => Promise<Prepared>,
  ): Promise<EditsDto> {
    let after: StoredProject | null = null;
    const result = await this.db.k.transaction().execute(async (tx) => {
      const version = await this.store.version(tx, id, true);
      const have = Math.min(dto.have ?? dto.base, version);
      const done = dto.key === undefined ? null : await this.log.versionOf(tx, id, dto.key);
      if (done !== null) return { version, ...(await this.answer(tx, id, have, dto)) };
      if (dto.base > version || !(await this.log.reaches(tx, id, dto.base)))
        throw unknownVersion(dto.base, version);
      const { project, bytes } = await this.store.openAt(tx, id, version);
      const { changes, entry, isSent = false } = await prepare({ tx, version, project });
      if (dto.by) checkSignature(project, changes, dto.by, isSent);
      const applied = applyChanges(project, changes);
      // The database writes rows while the log's text is put together.
      const [grown, texts] = await Promise.all([
        writeDifference(tx, id, project, applied.project),
        Promise.all([jsonArray(changes), jsonArray(applied.inverse)]),
      ]);
      after = { version: version + 1, project: applied.project, bytes: Math.max(0, bytes + grown) };
      const own = await this.append(tx, id, after, { entry, dto, texts });
      const answer = await this.answer(tx, id, have, dto, version);
      // Whoever sent the changes of an edit has them; they know it by its key.
      const last = { ...own, changes: isSent && dto.key !== undefined ? [] : changes };
      if (answer.complete) answer.edits.push(last);
      return { version: version + 1, ...answer };
    });
    if (after) this.store.keep(id, after);
    return result;
  }
  /** The edits after the version that the client has, up to another one. */
  private async answer(
    tx: Tx,
    id: string,
    have: number,
    dto: AskDto,
    to?: number,
  ): Promise<Omit<EditsDto, 'version'>> {
    const edits = await this.log.since(tx, id, have, to);
    return { ...edits, ...(await this.log.ahead(tx, id, dto.author ?? null)) };
  }

  private async append(
    tx: Tx,
    id: string,
    { version, bytes }: StoredProject,
    { entry, dto, texts: [changes, inverse] }: { entry: Entry; dto: AskDto; texts: readonly string[] },
  ): Promise<Omit<LoggedEdit, 'changes'>> {
    const { at } = await tx
      .insertInto('edits')
      .values({
        project_id: id,
        version,
        kind: entry.kind,
        of_version: entry.of,
        state: entry.kind === 'edit' ? 'done' : null,
        label: entry.label,
        who: dto.who,
        author: dto.author ?? null,
        changes,
        inverse,
        key: dto.key ?? null,
      })
      .returning('at')
      .executeTakeFirstOrThrow();
    await tx
      .updateTable('projects')
      .set({ version, bytes, updated_at: new Date() })
      .where('id', '=', id)
      .execute();
    await notify(tx, { what: 'version', project: id, version });
    const { kind, label } = entry;
    const { who, author = null, key = null } = dto;
    return { version, kind, label, who, author, at, inForce: kind === 'edit', key };
  }
}
