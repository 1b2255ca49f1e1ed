import { Inject, Injectable } from '@nestjs/common';
import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import { Database, type Tx } from '../database/database.js';
import { tooMany } from '../http/problem.js';
import { LIMITS } from '../limits.js';
import type { Role } from './roles.js';
import { checkPassword, Passwords } from './passwords.js';
import { hashOf, newSecret } from './secrets.js';
import { notVouched, type Vouched } from './single.sign.on.js';
import { Sessions } from './sessions.js';
import { lastAdministrator, nameTaken, noInvitation, noSuch, wrongPassword } from './team.problems.js';
import { notify } from '../database/notices.js';
import { SERVER, withdrawUnbacked } from './invitations-hold.js';

export interface Person {
  id: string;
  login: string;
  name: string;
  isAdministrator: boolean;
  endedAt: Date | null;
  seenAt: Date | null;
}
/** What whoever follows an invitation gets. */
export interface Offer {
  isAdministrator: boolean;
  project: string | null;
  role: Role | null;
  /** Of an invitation that sets a new password: whose. */
  account: string | null;
}
export interface Invitation {
  id: string;
  note: string;
  madeBy: string;
  until: Date;
  isAdministrator: boolean;
  role: Role | null;
  projectName: string | null;
  personName: string | null;
}

/** People of one name whom a provider may vouch for. */
const NAMESAKES = 100;
/** By whom the first administrator is invited. */

/** Accounts, and the invitations by which they come to be. */
@Injectable()
export class People {
  constructor(
    @Inject(Database) private readonly db: Database,
    @Inject(Passwords) private readonly passwords: Passwords,
    @Inject(Sessions) private readonly sessions: Sessions,
  ) {}

  async all(): Promise<Person[]> {
    return this.db.k
      .selectFrom('accounts as a')
      .select(['a.id', 'a.login', 'a.name', 'a.is_administrator as isAdministrator', 'a.ended_at as endedAt'])
      .select((q) =>
        q
          .selectFrom('sessions')
          .select(sql<Date>`max(seen_at)`.as('at'))
          .whereRef('account_id', '=', 'a.id')
          .as('seenAt'),
      )
      .orderBy(sql`lower(a.name)`)
      .execute();
  }
  /** The account of a sign-in name and password. @throws ProblemError 401 */
  async signIn(login: string, password: string): Promise<{ id: string; name: string }> {
    const account = await this.db.k
      .selectFrom('accounts')
      .select(['id', 'name', 'password'])
      .where('login', '=', plain(login))
      .where('ended_at', 'is', null)
      .executeTakeFirst();
    const isRight = await this.passwords.isRight(password, account?.password ?? null);
    if (!account || !isRight) throw wrongPassword();
    return account;
  }
  /**
   * The account of whom a provider vouches for; whoever comes for the first time gets one, which has no role anywhere.
   * @throws ProblemError 401 where the account was ended
   */
  async vouchedFor({ subject, login, name }: Vouched): Promise<{ id: string; name: string }> {
    const known = await this.db.k
      .selectFrom('accounts')
      .select(['id', 'name', 'ended_at as endedAt'])
      .where('subject', '=', subject)
      .executeTakeFirst();
    if (known?.endedAt) throw notVouched('this account was ended');
    if (known) return known;
    for (let n = 1; ; n++) {
      const more = n === 1 ? '' : ` ${n}`;
      const account = { id: randomUUID(), login: plain(login) + more.trim(), name: name + more };
      try {
        await this.db.k
          .insertInto('accounts')
          .values({ ...account, password: null, subject })
          .execute();
        return account;
      } catch (error) {
        // Somebody has that name; or the same person came twice at once.
        if ((error as { code?: string }).code !== '23505' || n === NAMESAKES) throw error;
        if ((error as { constraint?: string }).constraint === 'accounts_subject_key') {
          return this.vouchedFor({ subject, login, name });
        }
      }
    }
  }
  /** @throws ProblemError 400, 401. All other sessions end. */
  async changePassword(id: string, old: string, password: string, session: string): Promise<void> {
    const account = await this.db.k
      .selectFrom('accounts')
      .select(['login', 'password'])
      .where('id', '=', id)
      .executeTakeFirstOrThrow();
    if (!(await this.passwords.isRight(old, account.password))) throw wrongPassword();
    checkPassword(password, account.login);
    const hash = await this.passwords.hash(password);
    await this.db.k.transaction().execute(async (tx) => {
      await tx.updateTable('accounts').set({ password: hash }).where('id', '=', id).execute();
      await this.sessions.end(id, { but: session }, tx);
    });
  }

  /** Makes somebody an administrator or not, or ends an account: its windows close at once. @throws ProblemError 404, 409 */
  async change(id: string, to: { isAdministrator?: boolean; isEnded?: boolean }): Promise<{ name: string }> {
    return this.db.k.transaction().execute(async (tx) => {
      await sql`lock table accounts in share row exclusive mode`.execute(tx);
      const account = await tx
        .selectFrom('accounts')
        .select(['name', 'ended_at'])
        .where('id', '=', id)
        .executeTakeFirst();
      if (!account) throw noSuch('person');
      const { isAdministrator, isEnded } = to;
      try {
        await tx
          .updateTable('accounts')
          .set({
            ...(isAdministrator === undefined ? {} : { is_administrator: isAdministrator }),
            ...(isEnded === undefined
              ? {}
              : { ended_at: isEnded ? sql<Date>`coalesce(ended_at, now())` : null }),
          })
          .where('id', '=', id)
          .execute();
      } catch (error) {
        // Whoever comes back may find the name taken.
        if ((error as { code?: string }).code === '23505') throw nameTaken('name', account.name);
        throw error;
      }
      if (!(await hasAdministrator(tx))) throw lastAdministrator();
      await withdrawUnbacked(tx);
      if (isEnded === true) await this.sessions.end(id, { but: null }, tx);
      else await notify(tx, { what: 'access', account: id });
      return account;
    });
  }

  async invitations(project: string | null): Promise<Invitation[]> {
    return this.db.k
      .selectFrom('invitations as i')
      .leftJoin('projects as p', 'p.id', 'i.project_id')
      .leftJoin('accounts as a', 'a.id', 'i.account_id')
      .select([
        'i.id',
        'i.note',
        'i.made_by as madeBy',
        'i.until',
        'i.is_administrator as isAdministrator',
        'i.role',
      ])
      .select(['p.name as projectName', 'a.name as personName'])
      .where('i.until', '>', sql<Date>`now()`)
      .$if(project !== null, (q) => q.where('i.project_id', '=', project))
      .orderBy('i.made_at')
      .execute();
  }
  /** A new invitation; the secret of its link is shown once. @throws ProblemError 409 where too many are open */
  async invite(
    offer: Partial<Offer>,
    note: string,
    madeBy: string,
    time: number = LIMITS.team.invitation,
  ): Promise<{ id: string; secret: string }> {
    const id = randomUUID();
    const secret = newSecret();
    await this.db.k
      .deleteFrom('invitations')
      .where('until', '<', sql<Date>`now()`)
      .execute();
    const { open } = await this.db.k
      .selectFrom('invitations')
      .select((q) => q.fn.countAll<string>().as('open'))
      .executeTakeFirstOrThrow();
    if (Number(open) >= LIMITS.team.invitations) throw tooMany('open invitations', LIMITS.team.invitations);
    const { isAdministrator = false, project = null, role = null, account = null } = offer;
    await this.db.k
      .insertInto('invitations')
      .values({
        id,
        hash: hashOf(secret),
        is_administrator: isAdministrator,
        project_id: project,
        role,
        account_id: account,
        note,
        made_by: madeBy,
        until: new Date(Date.now() + time),
      })
      .execute();
    return { id, secret };
  }
  /** @throws ProblemError 404 */
  async withdraw(id: string, project: string | null): Promise<string> {
    const gone = await this.db.k
      .deleteFrom('invitations')
      .where('id', '=', id)
      .$if(project !== null, (q) => q.where('project_id', '=', project))
      .returning('note')
      .executeTakeFirst();
    if (!gone) throw noSuch('invitation');
    return gone.note;
  }
  /** What an invitation offers. @throws ProblemError 410 where it holds no longer */
  async offered(secret: string): Promise<Invitation> {
    const row = await this.db.k
      .selectFrom('invitations')
      .select('id')
      .where('hash', '=', hashOf(secret))
      .executeTakeFirst();
    const found = row && (await this.invitations(null)).find((i) => i.id === row.id);
    if (!found) throw noInvitation();
    return found;
  }
  /** Makes the account that an invitation offers, or sets its password; the invitation is used up. @throws ProblemError 400, 409, 410 */
  async join(
    secret: string,
    login: string,
    name: string,
    password: string,
  ): Promise<{ id: string; name: string }> {
    const before = await this.offerOf(secret);
    const own =
      before.account === null ? { login: plain(login), name: name.trim() } : await this.named(before.account);
    checkPassword(password, own.login);
    const hash = await this.passwords.hash(password);
    return this.db.k.transaction().execute(async (tx) => {
      const offer = await takeOffer(tx, secret);
      // Each process of a new server has printed a link; with the first administrator the others hold no longer.
      if (offer.isAdministrator) await tx.deleteFrom('invitations').where('made_by', '=', SERVER).execute();
      if (offer.account !== null) {
        await tx.updateTable('accounts').set({ password: hash }).where('id', '=', offer.account).execute();
        await this.sessions.end(offer.account, { but: null }, tx);
        return { id: offer.account, name: own.name };
      }
      const id = randomUUID();
      await makeAccount(tx, { id, ...own, password: hash, is_administrator: offer.isAdministrator });
      if (offer.project !== null && offer.role !== null) {
        await tx
          .insertInto('members')
          .values({ project_id: offer.project, account_id: id, role: offer.role })
          .execute();
      }
      return { id, name: own.name };
    });
  }
  /** The secret of an invitation for the first administrator; null where there is one already. */
  async firstInvitation(): Promise<string | null> {
    if (await hasAdministrator(this.db.k)) return null;
    return (await this.invite({ isAdministrator: true }, 'the first administrator', SERVER, 86_400_000))
      .secret;
  }

  private async offerOf(secret: string): Promise<Offer> {
    const offer = await offerIn(this.db.k, secret).executeTakeFirst();
    if (!offer) throw noInvitation();
    return offer;
  }
  private async named(id: string): Promise<{ login: string; name: string }> {
    return this.db.k
      .selectFrom('accounts')
      .select(['login', 'name'])
      .where('id', '=', id)
      .executeTakeFirstOrThrow();
  }
}

function plain(login: string): string {
  return login.normalize('NFKC').trim().toLowerCase();
}
// eslint-disable-next-line @typescript-eslint/explicit-function-return-type -- Kysely's builder says it best.
function offerIn(k: Database['k'] | Tx, secret: string) {
  return k
    .selectFrom('invitations')
    .select(['is_administrator as isAdministrator', 'project_id as project', 'role', 'account_id as account'])
    .where('hash', '=', hashOf(secret))
    .where('until', '>', sql<Date>`now()`);
}
async function takeOffer(tx: Tx, secret: string): Promise<Offer> {
  const offer = await offerIn(tx, secret).forUpdate().executeTakeFirst();
  if (!offer) throw noInvitation();
  await tx.deleteFrom('invitations').where('hash', '=', hashOf(secret)).execute();
  return offer;
}
async function makeAccount(
  tx: Tx,
  account: { id: string; login: string; name: string; password: string; is_administrator: boolean },
): Promise<void> {
  try {
    await tx.insertInto('accounts').values(account).execute();
  } catch (error) {
    const { code, constraint } = error as { code?: string; constraint?: string };
    if (code !== '23505') throw error;
    if (constraint === 'accounts_name') throw nameTaken('name', account.name);
    throw nameTaken('login', account.login);
  }
}
async function hasAdministrator(k: Database['k'] | Tx): Promise<boolean> {
  const row = await k
    .selectFrom('accounts')
    .select('id')
    .where('is_administrator', '=', true)
    .where('ended_at', 'is', null)
    .executeTakeFirst();
  return row !== undefined;
}
