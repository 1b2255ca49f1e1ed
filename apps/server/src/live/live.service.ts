import { Inject, Injectable, Logger, type MessageEvent } from '@nestjs/common';
import { concatMap, filter, finalize, from, interval, map, merge, Observable, of } from 'rxjs';
import { Database } from '../database/database.js';
import { EditLog } from '../projects/edit.log.js';
import { ProjectStore } from '../projects/project.store.js';
import type { LiveDto, PlaceDto } from './live.dto.js';
import { Notices, type Notice } from '../database/notices.js';
import { Presence } from './presence.js';

/** Keeps connections from being taken for dead. */
const QUIET_MS = 15_000;

/** One stream of events for each window that has a project open. */
@Injectable()
export class LiveService {
  private readonly log = new Logger('live');

  constructor(
    @Inject(Database) private readonly db: Database,
    @Inject(ProjectStore) private readonly store: ProjectStore,
    @Inject(EditLog) private readonly edits: EditLog,
    @Inject(Notices) private readonly notices: Notices,
    @Inject(Presence) private readonly presence: Presence,
  ) {}

  /**
   * Everything that happens to the project from now on: its version (first of all the one that is stored), who has it
   * open, and that its builds have changed. The window counts as present until the stream ends. @throws ProblemError 404
   */
  async stream(project: string, { client, who, place }: LiveDto): Promise<Observable<MessageEvent>> {
    await this.store.version(this.db.k, project);
    const window = { project, client, who, place };
    const all: Notice[] = [
      { what: 'version', project },
      { what: 'presence', project },
    ];
    const notices = merge(
      from(all),
      this.notices.heard.pipe(filter((n) => n.project === project)),
      this.notices.missed.pipe(concatMap(() => [...all, { what: 'builds', project } as const])),
    );
    const events = merge(
      notices.pipe(concatMap((notice) => this.eventOf(notice))),
      interval(QUIET_MS).pipe(map((): MessageEvent => ({ type: 'still', data: {} }))),
    ).pipe(filter((event) => event !== null));
    return new Observable<MessageEvent>((subscriber) => {
      const inner = events.subscribe(subscriber);
      void this.presence.enter(window).catch((error: unknown) => this.log.warn(String(error)));
      return () => inner.unsubscribe();
    }).pipe(finalize(() => void this.presence.leave(window)));
  }

  async move(project: string, client: string, { who, place }: PlaceDto): Promise<void> {
    await this.store.version(this.db.k, project);
    await this.presence.move({ project, client, who, place });
  }

  /** What a notice comes to; null where it cannot be found out now, since then the notices are missed and told anew. */
  private eventOf({ what, project }: Notice): Observable<MessageEvent | null> {
    if (what === 'builds') return of({ type: 'builds', data: {} });
    return from(
      (async (): Promise<MessageEvent | null> => {
        try {
          if (what === 'presence') return { type: 'presence', data: await this.presence.list(project) };
          const version = await this.store.version(this.db.k, project);
          return { type: 'version', data: { version, ...(await this.edits.ahead(this.db.k, project)) } };
        } catch {
          return null;
        }
      })(),
    );
  }
}
