import { Inject, Injectable } from '@nestjs/common';
import type { Request } from 'express';
import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import { Database } from '../database/database.js';
import { tooMany } from '../http/problem.js';
import { LIMITS } from '../limits.js';
import type { Actor } from './actor.js';
import type { Scope } from './roles.js';
import { hashOf, newSecret } from './secrets.js';
import { noSuch } from './team.problems.js';

/** So a token is known for one, in a leaked file too. */
const PREFIX = 'oquel_';

export interface TokenState {
  id: string;
  name: string;
  scopes: Scope[];
  madeBy: string;
  madeAt: Date;
  until: Date;
  usedAt: Date | null;
}

/** The token that a request comes with; null for none. */
export function bearerOf({ headers }: Request): string | null {
  return /^Bearer (\S+)$/i.exec(headers.authorization ?? '')?.[1] ?? null;
}

/** Tokens with which build servers and games come, each for one project. */
@Injectable()
export class Tokens {
  constructor(@Inject(Database) private readonly db: Database) {}

  async of(project: string): Promise<TokenState[]> {
    return this.db.k
      .selectFrom('tokens')
      .select([
        'id',
        'name',
        'scopes',
        'made_by as madeBy',
        'made_at as madeAt',
        'until',
        'used_at as usedAt',
      ])
      .where('project_id', '=', project)
      .orderBy('made_at')
      .orderBy('id')
      .execute();
  }
  /** A new token; only its hash is kept. @throws ProblemError 409 where there are too many */
  async make(
    project: string,
    name: string,
    scopes: Scope[],
    days: number,
    by: Actor,
  ): Promise<{ id: string; token: string }> {
    const id = randomUUID();
    const token = `${PREFIX}${newSecret()}`;
    const most = LIMITS.team.tokens;
    const { rows } = await sql`
      insert into tokens (id, hash, project_id, name, scopes, made_by, until)
      select ${id}, ${hashOf(token)}, ${project}, ${name}, ${scopes}::text[], ${by.name}, now() + make_interval(days => ${days})
      where (select count(*) from tokens where project_id = ${project}) < ${most}
      returning id`.execute(this.db.k);
    if (rows.length === 0) throw tooMany('tokens', most);
    return { id, token };
  }
  /** @throws ProblemError 404 */
  async revoke(project: string, id: string): Promise<string> {
    const gone = await this.db.k
      .deleteFrom('tokens')
      .where('project_id', '=', project)
      .where('id', '=', id)
      .returning('name')
      .executeTakeFirst();
    if (!gone) throw noSuch('token');
    return gone.name;
  }

  /** Whom a token stands for; null where it does not hold. */
  async actor(token: string): Promise<(Actor & { project: string; scopes: Scope[] }) | null> {
    const row = await this.db.k
      .updateTable('tokens')
      .set({ used_at: sql<Date>`now()` })
      .where('hash', '=', hashOf(token))
      .where('until', '>', sql<Date>`now()`)
      .returning(['id', 'name', 'project_id', 'scopes'])
      .executeTakeFirst();
    if (!row) return null;
    const { id, name, project_id: project, scopes } = row;
    const own = {
      kind: 'token',
      id,
      name: `${name} (token)`,
      isAdministrator: false,
      role: null,
      session: null,
    } as const;
    return { ...own, project, scopes };
  }
}
