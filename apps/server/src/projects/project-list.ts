import { Inject, Injectable } from '@nestjs/common';
import { sql } from 'kysely';
import { Database } from '../database/database.js';
import { LIMITS } from '../limits.js';
import type { GateDto, ProjectDto } from './project.dto.js';

const DAY_MS = 86_400_000;

/** The list of projects: what there is to tell of each at a glance. */
@Injectable()
export class ProjectList {
  constructor(@Inject(Database) private readonly db: Database) {}

  /** All projects, or those of one member, the last changed first. Cost: the projects, and a look into an index for each. */
  async all(member: string | null): Promise<ProjectDto[]> {
    const { rows } = await sql<Row>`
      select p.id, p.name, p.version, p.state, p.created_at, p.state_at, p.gate, e.who, e.label, e.kind,
        greatest(p.updated_at, e.at) as updated_at,
        (select coalesce(json_agg(distinct who), '[]') from presence where project_id = p.id) as here
      from projects p
      left join lateral (
        select who, label, kind, at from edits where project_id = p.id order by version desc limit 1
      ) e on true
      where ${member}::uuid is null
        or exists (select 1 from members where project_id = p.id and account_id = ${member}::uuid)
      order by updated_at desc
      limit ${LIMITS.projects.listed}`.execute(this.db.k);
    return rows.map((row) => ({
      id: row.id,
      name: row.name,
      version: row.version,
      state: row.state,
      createdAt: row.created_at,
      updatedAt: row.updated_at,
      ...(row.who === null ? {} : { last: { who: row.who, label: words(row) } }),
      here: JSON.parse(row.here) as string[],
      gate: row.gate === null ? null : (JSON.parse(row.gate) as GateDto),
      goneAt:
        row.state === 'deleted' ? new Date(row.state_at.getTime() + LIMITS.projects.binDays * DAY_MS) : null,
    }));
  }
}

interface Row {
  id: string;
  name: string;
  version: number;
  state: ProjectDto['state'];
  created_at: Date;
  updated_at: Date;
  state_at: Date;
  gate: string | null;
  who: string | null;
  label: string | null;
  kind: 'edit' | 'undo' | 'redo' | null;
  here: string;
}
function words({ kind, label }: Row): string {
  return kind === 'undo' ? `undid: ${label}` : kind === 'redo' ? `redid: ${label}` : String(label);
}
