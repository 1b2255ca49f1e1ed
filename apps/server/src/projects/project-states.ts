import { Inject, Injectable, Logger, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import type { Project } from '@oquel/core';
import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import { Database } from '../database/database.js';
import { noSuchProject, ProblemError, tooMany } from '../http/problem.js';
import { LIMITS } from '../limits.js';
import { there } from './project.store.js';
import type { CopyDto, StateDto } from './project.dto.js';

const log = new Logger('bin');

/** Archives, deletes, restores and copies whole projects, and empties the bin of what has been in it for long. */
@Injectable()
export class ProjectStates implements OnModuleInit, OnModuleDestroy {
  private timer: NodeJS.Timeout | null = null;
  constructor(@Inject(Database) private readonly db: Database) {}

  onModuleInit(): void {
    const empty = (): void => void this.emptyBin().catch((error: unknown) => log.warn(String(error)));
    // The first time when the tables are there.
    setTimeout(empty, LIMITS.projects.binFirst).unref();
    this.timer = setInterval(empty, LIMITS.projects.binEvery);
    this.timer.unref();
  }
  onModuleDestroy(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /** Puts a project into another state; done twice, it is done once. @throws ProblemError 404 */
  async set(id: string, { state }: StateDto): Promise<void> {
    const { rows } = await sql`
      update projects set
        state_at = case when state = ${state} then state_at else now() end,
        state = ${state}
      where id = ${id} returning id`.execute(this.db.k);
    if (rows.length === 0) throw noSuchProject();
  }

  /**
   * Copies a project as it is now, without its history and builds, under another name; returns its id. All or nothing, and
   * once for each key. Cost: the rows of the project, in the database. @throws ProblemError 404
   */
  async copy(id: string, { name, key }: CopyDto, owner: string | null): Promise<string> {
    return this.db.k
      .transaction()
      .setIsolationLevel('repeatable read')
      .execute(async (tx) => {
        const row = await tx
          .selectFrom('projects')
          .select(['body', 'bytes', 'state'])
          .where('id', '=', id)
          .executeTakeFirst();
        const head = there(row);
        const { n } = await tx
          .selectFrom('projects')
          .select((q) => q.fn.countAll<string>().as('n'))
          .executeTakeFirstOrThrow();
        if (Number(n) >= LIMITS.projects.listed) throw tooMany('projects', LIMITS.projects.listed);
        const body = JSON.stringify({ ...(JSON.parse(head.body) as Project), name });
        const copy = randomUUID();
        const { rows } = await sql`
          insert into projects (id, name, version, body, bytes, key)
          values (${copy}, ${name}, 1, ${body}, ${head.bytes}, ${key})
          on conflict (key) do nothing returning id`.execute(tx);
        if (rows.length === 0) {
          const made = await tx.selectFrom('projects').select('id').where('key', '=', key).executeTakeFirst();
          if (!made)
            throw new ProblemError(503, 'busy', 'The server is busy', 'this copy is being made; try again');
          return made.id;
        }
        await sql`insert into assets (project_id, id, pos, body)
          select ${copy}::uuid, id, pos, body from assets where project_id = ${id}`.execute(tx);
        for (const list of ['placements', 'bindings']) {
          await sql`insert into ${sql.table(list)} (project_id, asset_id, id, pos, body)
            select ${copy}::uuid, asset_id, id, pos, body from ${sql.table(list)} where project_id = ${id}`.execute(
            tx,
          );
        }
        await sql`insert into pictures (project_id, name, bytes)
          select ${copy}::uuid, name, bytes from pictures where project_id = ${id}`.execute(tx);
        if (owner !== null) {
          await tx
            .insertInto('members')
            .values({ project_id: copy, account_id: owner, role: 'lead' })
            .execute();
        }
        return copy;
      });
  }

  /** Deletes for good what was deleted long ago, with its history and builds. */
  private async emptyBin(): Promise<void> {
    const { rows } = await sql<{ name: string }>`
      delete from projects
      where state = 'deleted' and state_at < now() - make_interval(days => ${LIMITS.projects.binDays})
      returning name`.execute(this.db.k);
    for (const { name } of rows)
      log.log(`"${name}" was in the bin for ${LIMITS.projects.binDays} days and is gone`);
  }
}
