import { Injectable } from '@nestjs/common';
import type { Project } from '@oquel/core';
import { sql } from 'kysely';
import { setImmediate as nextTurn } from 'node:timers/promises';
import type { Database, Reader, Tx } from '../database/database.js';
import type { ItemTable, ProjectState } from '../database/schema.js';
import { noSuchProject, projectDeleted } from '../http/problem.js';
import { LIMITS } from '../limits.js';

export interface StoredProject {
  version: number;
  project: Project;
  /** Length of its text, about. */
  bytes: number;
}

/** Rows that are parsed before others get their turn. */
const SLICE = 2000;

@Injectable()
export class ProjectStore {
  /** Open projects as the core reads them, by id; only a cache, checked against the stored version at every use. */
  private readonly cache = new Map<string, StoredProject>();
  private cachedBytes = 0;

  /** The stored version of a project. @throws ProblemError 404; 410 where it was deleted */
  async version(k: Reader, id: string, lock = false): Promise<number> {
    let query = k.selectFrom('projects').select(['version', 'state']).where('id', '=', id);
    if (lock) query = query.forUpdate();
    return there(await query.executeTakeFirst()).version;
  }

  /** The stored versions of those projects that are there. */
  async versions(k: Reader, ids: readonly string[]): Promise<Map<string, number>> {
    if (ids.length === 0) return new Map();
    const rows = await k.selectFrom('projects').select(['id', 'version']).where('id', 'in', ids).execute();
    return new Map(rows.map((r) => [r.id, r.version]));
  }

  /** The project as it is stored now. @throws ProblemError 404 */
  async open(k: Database['k'], id: string): Promise<StoredProject> {
    const version = await this.version(k, id);
    const cached = this.cached(id, version);
    // One snapshot for the version and all rows, so that an edit in between cannot mix two versions.
    return (
      cached ??
      k
        .transaction()
        .setIsolationLevel('repeatable read')
        .execute((tx) => this.load(tx, id))
    );
  }
  /** The same inside a transaction that has locked the project at that version. */
  async openAt(tx: Tx, id: string, version: number): Promise<StoredProject> {
    return this.cached(id, version) ?? this.load(tx, id);
  }
  keep(id: string, stored: StoredProject): void {
    this.drop(id);
    this.cache.set(id, stored);
    this.cachedBytes += stored.bytes;
    for (const oldest of this.cache.keys()) {
      if (this.cachedBytes <= LIMITS.projects.cache || oldest === id) break;
      this.drop(oldest);
    }
  }
  private drop(id: string): void {
    const cached = this.cache.get(id);
    if (!cached) return;
    this.cache.delete(id);
    this.cachedBytes -= cached.bytes;
  }
  /** Length of the stored text, about. @throws ProblemError 404; 410 where it was deleted */
  async bytes(k: Reader, id: string): Promise<number> {
    const query = k.selectFrom('projects').select(['bytes', 'state']).where('id', '=', id);
    return Number(there(await query.executeTakeFirst()).bytes);
  }
  private cached(id: string, version: number): StoredProject | null {
    const cached = this.cache.get(id);
    return cached && cached.version === version ? cached : null;
  }

  private async load(tx: Tx, id: string): Promise<StoredProject> {
    const head = await tx
      .selectFrom('projects')
      .select(['version', 'body'])
      .where('id', '=', id)
      .executeTakeFirst();
    if (!head) throw noSuchProject();
    const assets = await tx
      .selectFrom('assets')
      .select('body')
      .where('project_id', '=', id)
      .orderBy('pos')
      .execute();
    const project = JSON.parse(head.body) as Project;
    project.assets = assets.map((row) => JSON.parse(row.body) as Project['assets'][number]);
    let bytes = assets.reduce((sum, { body }) => sum + body.length, head.body.length);
    for (const list of ['placements', 'bindings'] as const)
      bytes += await this.loadItems(tx, id, project, list);
    const stored = { version: head.version, project, bytes };
    this.keep(id, stored);
    return stored;
  }

  /**
   * The items of one kind, put into the lists that their assets have (an asset without such a list has no rows). They
   * are parsed in slices, so that a large project holds nobody up.
   */
  private async loadItems(tx: Tx, id: string, project: Project, list: ItemTable): Promise<number> {
    const byAsset = new Map(project.assets.map((a) => [a.id, a]));
    const rows = await tx
      .selectFrom(list)
      .select(['asset_id', 'body'])
      .where('project_id', '=', id)
      .orderBy(sql`asset_id, pos`)
      .execute();
    let bytes = 0;
    for (const [i, row] of rows.entries()) {
      if (i % SLICE === SLICE - 1) await nextTurn();
      const asset = byAsset.get(row.asset_id)!;
      ((asset[list] ??= []) as unknown[]).push(JSON.parse(row.body));
      bytes += row.body.length;
    }
    return bytes;
  }
}

/** A project that was looked for. @throws ProblemError 404 where it is not there; 410 where it was deleted */
export function there<T extends { state: ProjectState }>(row: T | undefined): T {
  if (!row) throw noSuchProject();
  if (row.state === 'deleted') throw projectDeleted();
  return row;
}
