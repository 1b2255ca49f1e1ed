import { Inject, Injectable } from '@nestjs/common';
import { sql } from 'kysely';
import { Database } from '../database/database.js';
import { ProblemError } from '../http/problem.js';
import { LIMITS } from '../limits.js';

/** The first half of the numbers of locks on a count. */
const TRIES = 711;
const FORGOTTEN = sql`make_interval(secs => ${LIMITS.team.forgotten / 1000})`;

/**
 * Slows down whoever guesses: after some tries in vain, by account and by address, each further one has to wait twice as long as
 * the one before. Nobody is locked out for longer than the longest wait. All processes on a database count together.
 */
@Injectable()
export class Tries {
  constructor(@Inject(Database) private readonly db: Database) {}

  /**
   * Counts a try before it is known whether it is in vain: of many at once, each is counted before the next is let through.
   * @throws ProblemError 429 where it has to wait
   */
  async begin(login: string, address: string): Promise<void> {
    const free = this.keys(login, address);
    await this.db.k.transaction().execute(async (tx) => {
      // In one order, so that no two wait for each other.
      for (const key of Object.keys(free).sort())
        await sql`select pg_advisory_xact_lock(${TRIES}, hashtext(${key}))`.execute(tx);
      const rows = await tx
        .selectFrom('sign_in_tries')
        .select(['key', 'failures', sql<string>`extract(epoch from now() - at) * 1000`.as('ago')])
        .where('key', 'in', Object.keys(free))
        .execute();
      let most = 0;
      for (const { key, failures, ago } of rows) {
        const over = failures - free[key];
        if (over >= 0) most = Math.max(most, Math.min(LIMITS.team.wait, 1000 * 2 ** over) - Number(ago));
      }
      if (most > 0) throw tooManyTries(Math.ceil(most / 1000));
      for (const key of Object.keys(free)) {
        await sql`insert into sign_in_tries as t (key, failures) values (${key}, 1)
          on conflict (key) do update set at = now(), failures = case
            when t.at < now() - ${FORGOTTEN} then 1 else least(t.failures + 1, 1000) end`.execute(tx);
      }
      await sql`delete from sign_in_tries where at < now() - ${FORGOTTEN}`.execute(tx);
    });
  }
  /** A try that came to nothing, but not because of its password. */
  async unmade(login: string, address: string): Promise<void> {
    await this.db.k
      .updateTable('sign_in_tries')
      .set({ failures: sql<number>`greatest(0, failures - 1)` })
      .where('key', 'in', Object.keys(this.keys(login, address)))
      .execute();
  }
  /** Somebody signed in: the account's count begins anew, and the address's is without this one. */
  async passed(login: string, address: string): Promise<void> {
    await this.db.k.deleteFrom('sign_in_tries').where('key', '=', accountKey(login)).execute();
    await sql`update sign_in_tries set failures = greatest(0, failures - 1) where key = ${`address ${address}`}`.execute(
      this.db.k,
    );
  }

  /** The counts that a try goes into, with how many are free in each. */
  private keys(login: string, address: string): Record<string, number> {
    return {
      [accountKey(login)]: LIMITS.team.triesOfAccount,
      [`address ${address}`]: LIMITS.team.triesOfAddress,
    };
  }
}
function accountKey(login: string): string {
  return `account ${login.slice(0, 200)}`;
}
function tooManyTries(wait: number): ProblemError {
  const detail = `too many tries in vain; try again in ${wait} s`;
  return new ProblemError(429, 'too-many-tries', 'Too many tries', detail, { retryAfter: wait });
}
