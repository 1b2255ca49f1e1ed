import { Inject, Injectable } from '@nestjs/common';
import { randomUUID } from 'node:crypto';
import { parse, serialize } from 'cookie';
import type { Request, Response } from 'express';
import { sql } from 'kysely';
import { Database, type Reader } from '../database/database.js';
import { notify } from '../database/notices.js';
import { LIMITS } from '../limits.js';
import type { Actor } from './actor.js';
import type { Role } from './roles.js';
import { hashOf, newSecret } from './secrets.js';

/** The prefix binds it to this very host over TLS: no other host can set it. Browsers take loopback for secure. */
const COOKIE = '__Host-oquel';
const SECURE = { path: '/', httpOnly: true, secure: true, sameSite: 'lax' } as const;
/** Sessions of the database's clock: what is not over, and was heard of lately. */
const IDLE = sql`make_interval(secs => ${LIMITS.team.idle / 1000})`;

/** Who has signed in, in which browser. A session is a row; the browser has a secret whose hash stands in it. */
@Injectable()
export class Sessions {
  constructor(@Inject(Database) private readonly db: Database) {}

  /** Begins a session and gives the browser its cookie; the one that it had before ends. */
  async begin(account: string, request: Request, response: Response): Promise<void> {
    const secret = newSecret();
    const old = secretOf(request);
    const until = new Date(Date.now() + LIMITS.team.session);
    await this.db.k.transaction().execute(async (tx) => {
      if (old !== null) await tx.deleteFrom('sessions').where('hash', '=', hashOf(old)).execute();
      const agent = (request.headers['user-agent'] ?? '').slice(0, 300);
      await tx
        .insertInto('sessions')
        .values({ id: randomUUID(), hash: hashOf(secret), account_id: account, agent, until })
        .execute();
      await sql`delete from sessions where account_id = ${account} and (until < now() or id not in (
        select id from sessions where account_id = ${account} order by seen_at desc limit ${LIMITS.team.sessions}))`.execute(
        tx,
      );
    });
    response.append('Set-Cookie', serialize(COOKIE, secret, { ...SECURE, expires: until }));
  }
  /** Takes the cookie away. */
  forget(response: Response): void {
    response.append('Set-Cookie', serialize(COOKIE, '', { ...SECURE, expires: new Date(0) }));
  }

  /** Who a request comes from, by its cookie, and their role in a project; null where nobody has signed in. */
  async actor(request: Request, project: string | null): Promise<Actor | null> {
    const secret = secretOf(request);
    if (secret === null) return null;
    const row = await this.db.k
      .selectFrom('sessions as s')
      .innerJoin('accounts as a', 'a.id', 's.account_id')
      .leftJoin('members as m', (j) =>
        j.onRef('m.account_id', '=', 'a.id').on('m.project_id', '=', project as string),
      )
      .select(['s.id as session', 's.until', 's.seen_at as seen', 'a.id', 'a.name', 'm.role'])
      .select('a.is_administrator as isAdministrator')
      .where('s.hash', '=', hashOf(secret))
      .where('a.ended_at', 'is', null)
      .where('s.until', '>', sql<Date>`now()`)
      .where('s.seen_at', '>', sql<Date>`now() - ${IDLE}`)
      .executeTakeFirst();
    if (!row) return null;
    if (Date.now() - row.seen.getTime() > LIMITS.team.seen) {
      await this.db.k
        .updateTable('sessions')
        .set({ seen_at: sql<Date>`now()` })
        .where('id', '=', row.session)
        .execute();
    }
    const { id, name, isAdministrator, until } = row;
    // An administrator may do everything in every project.
    const role: Role | null = isAdministrator && project !== null ? 'lead' : row.role;
    return {
      kind: 'account',
      id,
      name,
      isAdministrator,
      role,
      session: { id: row.session, until: until.getTime() },
    };
  }

  /** The sessions of an account, the last used first. */
  async of(account: string): Promise<{ id: string; agent: string; begun: Date; seen: Date }[]> {
    return this.db.k
      .selectFrom('sessions')
      .select(['id', 'agent', 'created_at as begun', 'seen_at as seen'])
      .where('account_id', '=', account)
      .where('until', '>', sql<Date>`now()`)
      .orderBy('seen_at', 'desc')
      .execute();
  }
  /** Ends one session of an account, or all but one; its windows hear of it. Returns how many there were. */
  async end(
    account: string,
    which: { only: string } | { but: string | null },
    k: Reader = this.db.k,
  ): Promise<number> {
    const gone = await k
      .deleteFrom('sessions')
      .where('account_id', '=', account)
      .$if('only' in which, (q) => q.where('id', '=', (which as { only: string }).only))
      .$if('but' in which && which.but !== null, (q) => q.where('id', '!=', (which as { but: string }).but))
      .returning('id')
      .execute();
    await notify(k, { what: 'access', account });
    return gone.length;
  }
}

function secretOf(request: Request): string | null {
  const secret = parse(request.headers.cookie ?? '')[COOKIE];
  return secret === undefined || secret === '' ? null : secret;
}
