import { Inject, Injectable } from '@nestjs/common';
import { sql } from 'kysely';
import { Database, type Reader } from '../database/database.js';
import { notify } from '../database/notices.js';
import { ROLES, type Role } from './roles.js';
import { withdrawUnbacked } from './invitations-hold.js';
import { noSuch } from './team.problems.js';

/** Names that are reported where somebody may not do something. */
const NAMED = 5;

export interface Member {
  account: string;
  name: string;
  role: Role;
}

/** Who has which role in which project. Administrators have every role everywhere and need not be members. */
@Injectable()
export class Members {
  constructor(@Inject(Database) private readonly db: Database) {}

  async of(project: string): Promise<Member[]> {
    return this.db.k
      .selectFrom('members as m')
      .innerJoin('accounts as a', 'a.id', 'm.account_id')
      .select(['a.id as account', 'a.name', 'm.role'])
      .where('m.project_id', '=', project)
      .where('a.ended_at', 'is', null)
      .orderBy(sql`lower(a.name)`)
      .execute();
  }
  /** Gives somebody a role, or takes it away (null). Returns the one before. @throws ProblemError 404 */
  async set(
    project: string,
    account: string,
    role: Role | null,
    k: Reader = this.db.k,
  ): Promise<{ name: string; was: Role | null }> {
    const person = await k
      .selectFrom('accounts as a')
      .leftJoin('members as m', (j) => j.onRef('m.account_id', '=', 'a.id').on('m.project_id', '=', project))
      .select(['a.name', 'm.role as was'])
      .where('a.id', '=', account)
      .where('a.ended_at', 'is', null)
      .executeTakeFirst();
    if (!person) throw noSuch('person');
    if (role === null) {
      await k
        .deleteFrom('members')
        .where('project_id', '=', project)
        .where('account_id', '=', account)
        .execute();
    } else {
      await k
        .insertInto('members')
        .values({ project_id: project, account_id: account, role })
        .onConflict((c) => c.columns(['project_id', 'account_id']).doUpdateSet({ role }))
        .execute();
    }
    if (person.was === 'lead' && role !== 'lead') await withdrawUnbacked(k);
    await notify(k, { what: 'access', account });
    return person;
  }
  /** The projects, of some, in which somebody has a role. */
  async among(account: string, projects: readonly string[]): Promise<Set<string>> {
    const rows = await this.db.k
      .selectFrom('members')
      .select('project_id')
      .where('account_id', '=', account)
      .where(sql<boolean>`project_id = any(${[...projects]}::uuid[])`)
      .execute();
    return new Set(rows.map((r) => r.project_id));
  }
  /** Names of some who have that role, or more. */
  async whoMay(project: string, role: Role): Promise<string[]> {
    const roles = ROLES.slice(ROLES.indexOf(role));
    const found = await this.of(project);
    return found
      .filter((m) => roles.includes(m.role))
      .map((m) => m.name)
      .slice(0, NAMED);
  }
}
