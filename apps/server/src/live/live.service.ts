import { Inject, Injectable, type MessageEvent, type OnModuleDestroy } from '@nestjs/common';
import { interval, map, merge, Observable, type Subscription } from 'rxjs';
import { Database } from '../database/database.js';
import { Notices } from '../database/notices.js';
import { LIMITS } from '../limits.js';
import { noSuchStream } from '../http/problem.js';
import { ProjectStore } from '../projects/project.store.js';
import type { LiveDto, WindowDto } from './live.dto.js';
import { Presence } from './presence.js';
import { ProjectFeed } from './project.feed.js';

/** One stream of events for each browser that has a project open. All streams of a project share what is asked for it. */
@Injectable()
export class LiveService implements OnModuleDestroy {
  private readonly feeds = new Map<string, ProjectFeed>();
  private readonly heard: Subscription;

  constructor(
    @Inject(Database) private readonly db: Database,
    @Inject(ProjectStore) private readonly store: ProjectStore,
    @Inject(Notices) notices: Notices,
    @Inject(Presence) private readonly presence: Presence,
  ) {
    this.heard = notices.heard.subscribe((notice) => this.feeds.get(notice.project)?.take(notice));
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
  async stream({ stream, projects }: LiveDto): Promise<Observable<MessageEvent>> {
    const versions = await this.store.versions(this.db.k, projects);
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
      const inner = merge(quiet, ...feeds.map((feed) => feed.events())).subscribe(subscriber);
      return () => {
        inner.unsubscribe();
        for (const feed of feeds) this.closeIfIdle(feed);
        void this.presence.end(stream);
      };
    });
  }
  /** @throws ProblemError 404 where the stream has ended */
  async windows(stream: string, windows: WindowDto[]): Promise<void> {
    if (!(await this.presence.say(stream, windows))) throw noSuchStream();
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
