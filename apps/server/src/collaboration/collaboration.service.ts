import { Inject, Injectable, type MessageEvent, type OnModuleDestroy } from '@nestjs/common';
import {
  filter,
  interval,
  map,
  merge,
  NEVER,
  Observable,
  race,
  Subject,
  takeUntil,
  timer,
  type Subscription,
} from 'rxjs';
import { Database } from '../database/database.js';
import { Notices } from '../database/notices.js';
import { LIMITS } from '../limits.js';
import { noSuchStream } from '../http/problem.js';
import { Closing } from '../http/closing.js';
import { ProjectStore } from '../projects/project.store.js';
import type { Actor } from '../team/actor.js';
import { Members } from '../team/members.js';
import type { CollaborationDto, WindowDto } from './collaboration.dto.js';
import { Presence } from './presence.js';
import { ProjectFeed } from './project.feed.js';

/** A stream is opened anew after this time: timers count no further. Milliseconds. */
const LONGEST = 86_400_000;

/** One stream of events for each browser that has a project open. All streams of a project share what is asked for it. */
@Injectable()
export class CollaborationService implements OnModuleDestroy {
  private readonly feeds = new Map<string, ProjectFeed>();
  private readonly heard: Subscription;
  /** Accounts of which what they may do has changed. */
  private readonly changed = new Subject<string>();

  constructor(
    @Inject(Database) private readonly db: Database,
    @Inject(ProjectStore) private readonly store: ProjectStore,
    @Inject(Notices) notices: Notices,
    @Inject(Presence) private readonly presence: Presence,
    @Inject(Members) private readonly members: Members,
    @Inject(Closing) private readonly closing: Closing,
  ) {
    this.heard = notices.heard.subscribe((notice) => {
      if (notice.what === 'access') this.changed.next(notice.account);
      else this.feeds.get(notice.project)?.take(notice);
    });
    this.heard.add(
      notices.missed.subscribe(() => {
        for (const feed of this.feeds.values()) void feed.refresh();
      }),
    );
  }
  onModuleDestroy(): void {
    this.heard.unsubscribe();
    for (const feed of this.feeds.values()) feed.close();
  }

  /**
   * Everything that happens to some projects from now on: the version of each (first of all the one that is stored), who
   * has it open, and that its builds have changed. Its windows count as present until the stream ends.
   */
  async stream({ stream, projects }: CollaborationDto, by: Actor | null): Promise<Observable<MessageEvent>> {
    const mine = await this.allowed(by, projects);
    const versions = await this.store.versions(this.db.k, [...mine]);
    await this.presence.begin(stream);
    const quiet = interval(LIMITS.live.quiet).pipe(map((): MessageEvent => ({ type: 'still', data: {} })));
    return new Observable<MessageEvent>((subscriber) => {
      const there = projects.filter((project) => versions.has(project));
      for (const project of projects) {
        const version = versions.get(project);
        if (version === undefined) subscriber.next({ type: 'gone', data: { project } });
        else subscriber.next({ type: 'version', data: { project, version } });
      }
      const feeds = there.map((project) => this.feed(project));
      const inner = merge(quiet, ...feeds.map((feed) => feed.events()))
        .pipe(takeUntil(merge(this.endOf(by), this.closing.begun)))
        .subscribe(subscriber);
      return () => {
        inner.unsubscribe();
        for (const feed of feeds) this.closeIfIdle(feed);
        void this.presence.end(stream);
      };
    });
  }
  /** @throws ProblemError 404 where the stream has ended */
  async windows(stream: string, windows: WindowDto[], by: Actor | null): Promise<void> {
    const mine = await this.allowed(
      by,
      windows.map((w) => w.project),
    );
    const own = windows.filter((w) => mine.has(w.project)).map((w) => ({ ...w, who: by?.name ?? w.who }));
    if (!(await this.presence.say(stream, own))) throw noSuchStream();
  }

  /** Those of some projects that somebody may look at. */
  private async allowed(by: Actor | null, projects: readonly string[]): Promise<ReadonlySet<string>> {
    return by === null || by.isAdministrator ? new Set(projects) : this.members.among(by.id, projects);
  }
  /** When a stream has to be opened anew, to be looked at again: what its account may do has changed, or its session is over. */
  private endOf(by: Actor | null): Observable<unknown> {
    if (by === null) return NEVER;
    const left = Math.min(LONGEST, (by.session?.until ?? Infinity) - Date.now());
    return race(timer(Math.max(0, left)), this.changed.pipe(filter((account) => account === by.id)));
  }

  private closeIfIdle(feed: ProjectFeed): void {
    if (!feed.isIdle) return;
    feed.close();
    this.feeds.delete(feed.project);
  }
  private feed(project: string): ProjectFeed {
    let feed = this.feeds.get(project);
    if (!feed) {
      feed = new ProjectFeed(
        project,
        () => this.store.version(this.db.k, project),
        () => this.presence.list(project),
      );
      this.feeds.set(project, feed);
    }
    return feed;
  }
}
