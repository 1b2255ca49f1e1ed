import { Inject, Injectable, Logger, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import { sql } from 'kysely';
import pg from 'pg';
import { Subject } from 'rxjs';
import { CONFIG, type Config } from '../config.js';
import type { Database, Tx } from './database.js';

/** Something that happened to a project, in this server process or in another one on the same database. */
export interface Notice {
  what: 'version' | 'presence' | 'builds';
  project: string;
}
const CHANNEL = 'oquel';
const AGAIN_MS = 500;

/** Tells the other processes by NOTIFY, as part of the transaction that it tells of: it is heard when that is committed. */
export async function tell(k: Database['k'] | Tx, notice: Notice): Promise<void> {
  await sql`select pg_notify(${CHANNEL}, ${JSON.stringify(notice)})`.execute(k);
}

/**
 * Hears what is told, on a connection of its own. When that is lost it is made again, and `missed` says that anything
 * may have happened meanwhile.
 */
@Injectable()
export class Notices implements OnModuleInit, OnModuleDestroy {
  readonly heard = new Subject<Notice>();
  readonly missed = new Subject<void>();
  private readonly log = new Logger('live');
  private client: pg.Client | null = null;
  private timer: NodeJS.Timeout | null = null;
  private ended = false;

  constructor(@Inject(CONFIG) private readonly config: Config) {}

  async onModuleInit(): Promise<void> {
    await this.listen();
  }
  async onModuleDestroy(): Promise<void> {
    this.ended = true;
    if (this.timer) clearTimeout(this.timer);
    await this.client?.end().catch(() => undefined);
  }

  private async listen(): Promise<void> {
    const client = new pg.Client({
      connectionString: this.config.databaseUrl,
      connectionTimeoutMillis: 5000,
      keepAlive: true,
    });
    client.on('notification', ({ payload }) => {
      if (payload !== undefined) this.heard.next(JSON.parse(payload) as Notice);
    });
    client.on('error', (error) => {
      this.log.warn(`lost the connection that hears of changes: ${error.message}`);
      this.again();
    });
    client.on('end', () => this.again());
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}`);
      this.client = client;
      this.missed.next();
    } catch {
      await client.end().catch(() => undefined);
      this.again();
    }
  }
  private again(): void {
    this.client = null;
    if (this.ended || this.timer) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      void this.listen();
    }, AGAIN_MS);
  }
}
