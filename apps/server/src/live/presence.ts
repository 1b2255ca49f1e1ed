import { Inject, Injectable, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import { sql } from 'kysely';
import { Database } from '../database/database.js';
import type { PresentDto } from './live.dto.js';
import { tell } from '../database/notices.js';

const BEAT_MS = 10_000;
/** Who has not been seen for so long is gone: its server was killed. */
const GONE = sql`interval '30 seconds'`;

export interface Window {
  project: string;
  client: string;
  who: string;
  place: string;
}

/** Which windows have a project open. Every server vouches for its own in the database, and takes out those that nobody vouches for. */
@Injectable()
export class Presence implements OnModuleInit, OnModuleDestroy {
  private readonly own = new Map<string, Window>();
  private beat: NodeJS.Timeout | null = null;

  constructor(@Inject(Database) private readonly db: Database) {}

  onModuleInit(): void {
    this.beat = setInterval(() => void this.vouch().catch(() => undefined), BEAT_MS);
    this.beat.unref();
  }
  async onModuleDestroy(): Promise<void> {
    if (this.beat) clearInterval(this.beat);
    for (const window of this.own.values()) await this.leave(window);
  }

  async list(project: string): Promise<PresentDto[]> {
    return this.db.k
      .selectFrom('presence')
      .select(['client', 'who', 'place'])
      .where('project_id', '=', project)
      .where('seen_at', '>', sql<Date>`now() - ${GONE}`)
      .orderBy('who')
      .orderBy('client')
      .execute();
  }
  /** A window came. */
  async enter(window: Window): Promise<void> {
    this.own.set(window.client, window);
    await this.store(window);
    await tell(this.db.k, { what: 'presence', project: window.project });
  }
  /**
   * A window looks at something else now. What is told after its stream has ended changes nothing: nobody would ever take
   * it out again.
   */
  async move(window: Window): Promise<void> {
    if (this.own.has(window.client)) return this.enter(window);
    const { project, client, who, place } = window;
    const { numUpdatedRows } = await this.db.k
      .updateTable('presence')
      .set({ who, place })
      .where('project_id', '=', project)
      .where('client', '=', client)
      .executeTakeFirst();
    if (numUpdatedRows > 0n) await tell(this.db.k, { what: 'presence', project });
  }
  async leave({ project, client }: Window): Promise<void> {
    this.own.delete(client);
    try {
      await this.db.k
        .deleteFrom('presence')
        .where('project_id', '=', project)
        .where('client', '=', client)
        .execute();
      await tell(this.db.k, { what: 'presence', project });
    } catch {
      // Without the database nobody hears of it; nobody vouches for it either.
    }
  }

  private async store({ project, client, who, place }: Window): Promise<void> {
    await this.db.k
      .insertInto('presence')
      .values({ project_id: project, client, who, place })
      .onConflict((c) =>
        c.columns(['project_id', 'client']).doUpdateSet({ who, place, seen_at: sql<Date>`now()` }),
      )
      .execute();
  }
  private async vouch(): Promise<void> {
    for (const window of this.own.values()) await this.store(window);
    const gone = await this.db.k
      .deleteFrom('presence')
      .where('seen_at', '<', sql<Date>`now() - ${GONE}`)
      .returning('project_id')
      .execute();
    for (const project of new Set(gone.map((g) => g.project_id))) {
      await tell(this.db.k, { what: 'presence', project });
    }
  }
}
