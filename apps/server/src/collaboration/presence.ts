import { Inject, Injectable, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import { sql } from 'kysely';
import { Database, type Reader } from '../database/database.js';
import { notify } from '../database/notices.js';
import { LIMITS } from '../limits.js';
import type { PresentDto, WindowDto } from './collaboration.dto.js';

/** A stream that has not been seen for so long is gone: its server was killed. */
const GONE = sql`make_interval(secs => ${LIMITS.live.gone / 1000})`;

/**
 * Which windows have a project open. Each belongs to a stream. Every server vouches for its own streams in the database,
 * and takes out those that nobody vouches for. What a stream said goes with that stream alone, so that one which ends
 * late takes nothing from its successor.
 */
@Injectable()
export class Presence implements OnModuleInit, OnModuleDestroy {
  /** The streams of this server, with what each said last. */
  private readonly own = new Map<string, readonly WindowDto[]>();
  private beat: NodeJS.Timeout | null = null;

  constructor(@Inject(Database) private readonly db: Database) {}

  onModuleInit(): void {
    this.beat = setInterval(() => void this.vouch().catch(() => undefined), LIMITS.live.beat);
    this.beat.unref();
  }
  async onModuleDestroy(): Promise<void> {
    if (this.beat) clearInterval(this.beat);
    const streams = [...this.own.keys()];
    this.own.clear();
    await this.remove(streams).catch(() => undefined);
  }

  /** Streams of this server. */
  get streams(): number {
    return this.own.size;
  }

  async list(project: string): Promise<PresentDto[]> {
    return this.db.k
      .selectFrom('presence')
      .select(['client', 'who', 'place'])
      .where('project_id', '=', project)
      .orderBy('who')
      .orderBy('client')
      .execute();
  }
  /** A stream has begun. */
  async begin(stream: string): Promise<void> {
    this.own.set(stream, []);
    await this.db.k
      .insertInto('streams')
      .values({ id: stream })
      .onConflict((c) => c.doNothing())
      .execute();
  }
  async end(stream: string): Promise<void> {
    this.own.delete(stream);
    try {
      await this.remove([stream]);
    } catch {
      // Without the database nobody hears of it; nobody vouches for it either.
    }
  }
  /**
   * All windows of a stream, said to any server. What is said after the stream has ended changes nothing: nobody would
   * take it out again. False where there is no such stream.
   */
  async say(stream: string, windows: readonly WindowDto[]): Promise<boolean> {
    if (this.own.has(stream)) this.own.set(stream, windows);
    return this.db.k.transaction().execute(async (tx) => {
      const known = await tx
        .selectFrom('streams')
        .select('id')
        .where('id', '=', stream)
        .forShare()
        .executeTakeFirst();
      if (!known) return false;
      const gone = await tx
        .deleteFrom('presence')
        .where('stream', '=', stream)
        .where(sql<boolean>`client <> all(${windows.map((w) => w.client)}::uuid[])`)
        .returning('project_id')
        .execute();
      await this.store(tx, stream, windows);
      await tellAll(tx, [...gone.map((g) => g.project_id), ...windows.map((w) => w.project)]);
      return true;
    });
  }

  /** A window belongs to the stream that spoke of it last. */
  private async store(k: Reader, stream: string, windows: readonly WindowDto[]): Promise<void> {
    if (windows.length === 0) return;
    await k
      .insertInto('presence')
      .values(
        windows.map(({ project, client, who, place }) => ({
          project_id: project,
          client,
          stream,
          who,
          place,
        })),
      )
      .onConflict((c) =>
        c.columns(['project_id', 'client']).doUpdateSet((e) => ({
          stream: e.ref('excluded.stream'),
          who: e.ref('excluded.who'),
          place: e.ref('excluded.place'),
        })),
      )
      .execute();
  }
  private async remove(streams: readonly string[]): Promise<void> {
    await this.db.k.transaction().execute(async (tx) => {
      const { rows } = await sql<{ project_id: string }>`
        delete from presence where stream = any(${streams}::uuid[]) returning project_id`.execute(tx);
      await sql`delete from streams where id = any(${streams}::uuid[])`.execute(tx);
      await tellAll(
        tx,
        rows.map((r) => r.project_id),
      );
    });
  }
  private async vouch(): Promise<void> {
    const streams = [...this.own.keys()];
    const { rows } = await sql<{ id: string }>`
      update streams set seen_at = now() where id = any(${streams}::uuid[]) returning id`.execute(this.db.k);
    // Those that another server took out while this one did not answer, or that went with a crash of the database.
    const known = new Set(rows.map((r) => r.id));
    for (const stream of streams) {
      const windows = this.own.get(stream);
      if (known.has(stream) || !windows) continue;
      await this.begin(stream);
      await this.say(stream, windows);
    }
    const gone = await sql<{ id: string }>`select id from streams where seen_at < now() - ${GONE}`.execute(
      this.db.k,
    );
    if (gone.rows.length > 0) await this.remove(gone.rows.map((r) => r.id));
  }
}

async function tellAll(k: Reader, projects: readonly string[]): Promise<void> {
  for (const project of new Set(projects)) await notify(k, { what: 'presence', project });
}
