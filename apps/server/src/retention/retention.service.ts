import { Inject, Injectable } from '@nestjs/common';
import { sql, type RawBuilder } from 'kysely';
import { Database } from '../database/database.js';
import { LIMITS } from '../limits.js';
import type { AgesDto, ProjectAmountsDto } from './retention.dto.js';

/**
 * Takes away what is old: edits of the history, from its beginning, and builds. Of each project the last edits stay, so that
 * they can be undone, and so do its newest build and every one that was let through last.
 */
@Injectable()
export class Retention {
  constructor(@Inject(Database) private readonly db: Database) {}

  /** What each project has, and what of it would go. Cost: the edits and builds that would go, and an index for the rest. */
  async amounts(ages: AgesDto): Promise<ProjectAmountsDto[]> {
    const { rows } = await sql<Row>`
      select p.id, p.name,
        (select count(*) from edits e where e.project_id = p.id) as edits,
        (select count(*) from builds b where b.project_id = p.id) as builds,
        h.n as history_going, h.bytes as history_bytes, o.n as builds_going, o.bytes as builds_bytes
      from projects p
      cross join lateral (
        select count(*) as n, coalesce(sum(pg_column_size(e.changes) + pg_column_size(e.inverse)), 0) as bytes
        from edits e where e.project_id = p.id and ${oldEdit(sql`p.id`, ages.history)}
      ) h
      cross join lateral (
        select count(*) as n, coalesce(sum(pg_column_size(b.document) + pg_column_size(b.audit)), 0) as bytes
        from builds b where b.project_id = p.id and ${oldBuild(ages.builds)}
      ) o
      order by p.name, p.id
      limit ${LIMITS.projects.listed}`.execute(this.db.k);
    return rows.map((row) => ({
      id: row.id,
      name: row.name,
      history: {
        all: Number(row.edits),
        going: Number(row.history_going),
        bytes: Number(row.history_bytes),
      },
      builds: { all: Number(row.builds), going: Number(row.builds_going), bytes: Number(row.builds_bytes) },
    }));
  }

  /**
   * Removes it, project by project, each while nobody edits it; what has gone of each that had something. Done again, there
   * is nothing left to remove. Cost: what goes.
   */
  async thin(ages: AgesDto): Promise<ProjectAmountsDto[]> {
    const gone: ProjectAmountsDto[] = [];
    for (const before of await this.amounts(ages)) {
      if (before.history.going + before.builds.going === 0) continue;
      await this.db.k.transaction().execute(async (tx) => {
        await sql`select 1 from projects where id = ${before.id} for update`.execute(tx);
        const id = sql`${before.id}::uuid`;
        const edits = await sql`
          delete from edits e where e.project_id = ${id} and ${oldEdit(id, ages.history)}`.execute(tx);
        const builds = await sql`
          delete from builds b where b.project_id = ${id} and ${oldBuild(ages.builds)}`.execute(tx);
        gone.push({
          ...before,
          history: { ...before.history, going: Number(edits.numAffectedRows ?? 0) },
          builds: { ...before.builds, going: Number(builds.numAffectedRows ?? 0) },
        });
      });
    }
    return gone;
  }
}

interface Row {
  id: string;
  name: string;
  edits: string;
  builds: string;
  history_going: string;
  history_bytes: string;
  builds_going: string;
  builds_bytes: string;
}

/** Whether an edit `e` goes: always the beginning of the history, without a gap behind it. */
function oldEdit(project: RawBuilder<unknown>, days: number | undefined): RawBuilder<unknown> {
  if (days === undefined) return sql`false`;
  return sql`e.version <= least(
    (select coalesce(max(version), 0) from edits where project_id = ${project} and at < ${ago(days)}),
    (select version from projects where id = ${project}) - ${LIMITS.retention.lastEdits}::integer)`;
}
/** Whether a build `b` goes. */
function oldBuild(days: number | undefined): RawBuilder<unknown> {
  if (days === undefined) return sql`false`;
  return sql`b.at < ${ago(days)}
    and exists (select 1 from builds newer where newer.project_id = b.project_id and (newer.at, newer.id) > (b.at, b.id))
    and 'through' is distinct from (
      select verdict from build_verdicts v where v.build_id = b.id order by n desc limit 1)`;
}
function ago(days: number): RawBuilder<unknown> {
  return sql`now() - make_interval(days => ${days}::integer)`;
}
