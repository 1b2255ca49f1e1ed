import { Inject, Injectable, Logger, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import { sql } from 'kysely';
import pg from 'pg';
import { Subject } from 'rxjs';
import { CONFIG, type Config } from '../config.js';
import { LIMITS } from '../limits.js';
import type { Reader } from './database.js';

/** Something that happened to a project, in this server process or in another one on the same database. */
export type Notice =
  | { what: 'version'; project: string; version: number }
  | { what: 'presence' | 'builds' | 'plays'; project: string }
  /** What an account may do has changed, or one of its sessions has ended. */
  | { what: 'access'; account: string };
const CHANNEL = 'oquel';
const AGAIN_MS = 500;

/** Tells the other processes by NOTIFY, as part of the transaction that it tells of: it is heard when that is committed. */
export async function notify(k: Reader, notice: Notice): Promise<void> {
  await sql`select pg_notify(${CHANNEL}, ${JSON.stringify(notice)})`.execute(k);
}

/**
 * Hears what is reported, on a connection of its own. When that is lost, or does not answer any more, it is made again, and
 * `missed` says that anything may have happened meanwhile.
 */
@Injectable()
export class Notices implements OnModuleInit, OnModuleDestroy {
  readonly heard = new Subject<Notice>();
  readonly missed = new Subject<void>();
  private readonly log = new Logger('live');
  private client: pg.Client | null = null;
  private timer: NodeJS.Timeout | null = null;
  private beat: NodeJS.Timeout | null = null;
  private ended = false;

  constructor(@Inject(CONFIG) private readonly config: Config) {}

  async onModuleInit(): Promise<void> {
    this.beat = setInterval(() => void this.check(), LIMITS.live.beat);
    this.beat.unref();
    await this.listen();
  }
  async onModuleDestroy(): Promise<void> {
    this.ended = true;
    if (this.timer) clearTimeout(this.timer);
    if (this.beat) clearInterval(this.beat);
    await this.client?.end().catch(() => undefined);
  }

  private async listen(): Promise<void> {
    const client = new pg.Client({
      connectionString: this.config.databaseUrl,
      connectionTimeoutMillis: LIMITS.database.connect,
      query_timeout: LIMITS.database.connect,
      keepAlive: true,
    });
    client.on('notification', ({ payload }) => {
      const notice = readNotice(payload);
      if (notice) this.heard.next(notice);
    });
    client.on('error', (error) => {
      this.log.warn(`lost the connection that hears of changes: ${error.message}`);
      this.again(client);
    });
    client.on('end', () => this.again(client));
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}`);
      this.client = client;
      this.missed.next();
    } catch {
      this.again(client);
    }
  }
  /** A connection that has died without a word is found by asking. */
  private async check(): Promise<void> {
    const { client } = this;
    if (!client) return;
    try {
      await client.query('select 1');
    } catch {
      this.again(client);
    }
  }
  private again(lost: pg.Client): void {
    if (this.client === lost) this.client = null;
    lost.removeAllListeners('notification');
    lost.end().catch(() => undefined);
    if (this.ended || this.timer || this.client) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      void this.listen();
    }, AGAIN_MS);
  }
}

/** Anybody who may connect to the database may notify; what is no notice of ours is passed over. */
function readNotice(payload: string | undefined): Notice | null {
  try {
    const notice = JSON.parse(payload ?? '') as Notice;
    if (notice.what === 'access') return typeof notice.account === 'string' ? notice : null;
    if (typeof notice.project !== 'string') return null;
    if (notice.what === 'version') return Number.isInteger(notice.version) ? notice : null;
    return ['presence', 'builds', 'plays'].includes(notice.what) ? notice : null;
  } catch {
    return null;
  }
}
