import { createHash, randomBytes, randomUUID, timingSafeEqual } from 'node:crypto';
import type { Readable } from 'node:stream';
import { Inject, Injectable, type MessageEvent, type StreamableFile } from '@nestjs/common';
import type { PlayReport } from '@oquel/core';
import { sql } from 'kysely';
import { filter, map, Subject, type Observable } from 'rxjs';
import { BuildStore } from '../builds/build.store.js';
import { Database } from '../database/database.js';
import { notify } from '../database/notices.js';
import { HeavyService } from '../heavy/heavy.service.js';
import { busy, noSuchProject, ProblemError } from '../http/problem.js';
import { LIMITS } from '../limits.js';
import { judge } from './judging.js';
import type { PlayDto, PlayFiguresDto, PlayQueryDto, TokenStateDto } from './play.dto.js';

/** Plays that games have sent: judged while they come in, kept as reports, a bounded number of them. */
@Injectable()
export class PlaysService {
  private judging = 0;
  private readonly live = new Subject<{ project: string; session: string; lines: string[] }>();

  constructor(
    @Inject(Database) private readonly db: Database,
    @Inject(HeavyService) private readonly heavy: HeavyService,
    @Inject(BuildStore) private readonly builds: BuildStore,
  ) {}

  /** @throws ProblemError 400, 401, 404, 413, 503 */
  async take(
    project: string,
    sender: 'checked' | { token: string | null },
    query: PlayQueryDto,
    body: Readable,
  ): Promise<PlayDto> {
    if (sender !== 'checked') await this.check(project, sender.token);
    if (this.judging >= LIMITS.plays.atOnce) throw busy('other plays are being judged');
    this.judging++;
    try {
      const session = query.session ?? 'play';
      const { bytes, build } = await this.documentFor(project, query.wiring);
      const report = await judge(bytes, { ...query, session }, body, (lines) =>
        this.live.next({ project, session, lines }),
      );
      return await this.keep(project, session, build === null ? report : { ...report, build });
    } finally {
      this.judging--;
    }
  }
  /** The build that the game has run, where it says which; else the project as it is. */
  private async documentFor(
    project: string,
    wiring: string | undefined,
  ): Promise<{ bytes: Uint8Array; build: string | null }> {
    const build = wiring === undefined ? null : await this.builds.withWiring(this.db.k, project, wiring);
    if (build) return { bytes: new TextEncoder().encode(build.document), build: build.name };
    return { bytes: (await this.heavy.document(project)).bytes, build: null };
  }
  /** What is sent to a project while it comes in: of more than can be looked at, the newest. */
  watched(project: string): Observable<MessageEvent> {
    return this.live.pipe(
      filter((sent) => sent.project === project),
      map(({ session, lines }) => ({ type: 'lines', data: { session, lines } })),
    );
  }
  async list(project: string): Promise<PlayDto[]> {
    const rows = await this.db.k
      .selectFrom('plays')
      .select(['id', 'at', 'name', 'figures'])
      .where('project_id', '=', project)
      .orderBy('at', 'desc')
      .limit(LIMITS.plays.kept)
      .execute();
    return rows.map(({ figures, ...row }) => ({ ...row, figures: JSON.parse(figures) as PlayFiguresDto }));
  }
  /** The report as JSON. @throws ProblemError 404 */
  async report(project: string, play: string): Promise<string> {
    const row = await this.db.k
      .selectFrom('plays')
      .select('report')
      .where('project_id', '=', project)
      .where('id', '=', play)
      .executeTakeFirst();
    if (!row) throw noSuchPlay();
    return row.report;
  }
  /** All that are judged by the same wiring as the newest, as one report. @throws ProblemError 404 */
  together(project: string): Promise<StreamableFile> {
    return this.heavy.plays(project);
  }
  /** @throws ProblemError 404 */
  async remove(project: string, play: string): Promise<void> {
    await this.db.k.transaction().execute(async (tx) => {
      const gone = await tx
        .deleteFrom('plays')
        .where('project_id', '=', project)
        .where('id', '=', play)
        .executeTakeFirst();
      if (gone.numDeletedRows === 0n) throw noSuchPlay();
      await notify(tx, { what: 'plays', project });
    });
  }
  /** A new token in the place of the one before. @throws ProblemError 404 */
  async newToken(project: string): Promise<string> {
    const token = randomBytes(24).toString('base64url');
    await this.db.k.transaction().execute(async (tx) => {
      const { rows } = await sql`select 1 from projects where id = ${project} for share`.execute(tx);
      if (rows.length === 0) throw noSuchProject();
      const hash = hashOf(token);
      await tx
        .insertInto('play_tokens')
        .values({ project_id: project, hash })
        .onConflict((c) => c.column('project_id').doUpdateSet({ hash, at: sql`now()` }))
        .execute();
    });
    return token;
  }
  async tokenState(project: string): Promise<TokenStateDto> {
    const row = await this.tokenOf(project);
    return row ? { at: row.at } : {};
  }

  private tokenOf(project: string): Promise<{ hash: string; at: Date } | undefined> {
    return this.db.k
      .selectFrom('play_tokens')
      .select(['hash', 'at'])
      .where('project_id', '=', project)
      .executeTakeFirst();
  }
  private async check(project: string, token: string | null): Promise<void> {
    const row = await this.tokenOf(project);
    const given = Buffer.from(token === null ? '' : hashOf(token));
    if (row && given.length === row.hash.length && timingSafeEqual(given, Buffer.from(row.hash))) return;
    const why = row ? 'the token is not the one of this project' : 'this project has no token yet';
    const detail = `${why}; make one in Rehearse, Plays, and send it as "Authorization: Bearer TOKEN"`;
    throw new ProblemError(401, 'no-token', 'Not allowed to send plays', detail);
  }
  private async keep(project: string, name: string, report: PlayReport): Promise<PlayDto> {
    const text = JSON.stringify(report);
    if (text.length > LIMITS.plays.report) {
      const detail = 'the report of this sending is too long to be kept; send it in parts';
      throw new ProblemError(413, 'too-large', 'Too large', detail);
    }
    const figures = figuresOf(report);
    const [id, at] = [randomUUID(), new Date()];
    await this.db.k.transaction().execute(async (tx) => {
      const { rows } = await sql`select 1 from projects where id = ${project} for share`.execute(tx);
      if (rows.length === 0) throw noSuchProject();
      await tx
        .insertInto('plays')
        .values({ id, project_id: project, at, name, figures: JSON.stringify(figures), report: text })
        .execute();
      await sql`
        delete from plays where project_id = ${project} and id in (
          select id from plays where project_id = ${project} order by at desc offset ${LIMITS.plays.kept}
        )`.execute(tx);
      await notify(tx, { what: 'plays', project });
    });
    return { id, at, name, figures };
  }
}

function figuresOf(r: PlayReport): PlayFiguresDto {
  return {
    sessions: r.sessions,
    records: r.records,
    seconds: r.seconds,
    broken: r.broken.count,
    served: r.coverage.served,
    of: r.coverage.of,
    wrong: r.missing.length + r.doubled.length + r.order.length + r.despite.length,
    elsewhere: r.unexplained.length + r.unknown.length,
  };
}
function hashOf(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}
function noSuchPlay(): ProblemError {
  return new ProblemError(404, 'no-play', 'No such play', 'there is no play of that id in this project');
}
