import type { MessageEvent } from '@nestjs/common';
import { Observable, Subject } from 'rxjs';
import type { Notice } from '../database/notices.js';
import { LIMITS } from '../limits.js';
import type { PresenceEventDto, PresentDto } from './collaboration.dto.js';

/**
 * What happens to one project, for all its streams in this process. A change of the version costs no question at all;
 * who is present is asked at most so often, and reported as a difference.
 */
export class ProjectFeed {
  private readonly messages = new Subject<MessageEvent>();
  private present = new Map<string, PresentDto>();
  private asking = false;
  private due = false;
  private timer: NodeJS.Timeout | null = null;
  private closed = false;

  constructor(
    readonly project: string,
    private readonly version: () => Promise<number>,
    private readonly list: () => Promise<PresentDto[]>,
  ) {}

  get isIdle(): boolean {
    return !this.messages.observed;
  }
  /** Who is present now, and everything from then on. */
  events(): Observable<MessageEvent> {
    return new Observable((subscriber) => {
      subscriber.next(this.presence({ all: [...this.present.values()] }));
      return this.messages.subscribe(subscriber);
    });
  }
  take(notice: Notice): void {
    if (notice.what === 'version')
      this.messages.next({ type: 'version', data: { project: this.project, version: notice.version } });
    else if (notice.what === 'builds' || notice.what === 'plays')
      this.messages.next({ type: notice.what, data: { project: this.project } });
    else this.presenceChanged();
  }
  /** Anything may have happened. */
  async refresh(): Promise<void> {
    for (const type of ['builds', 'plays']) this.messages.next({ type, data: { project: this.project } });
    this.presenceChanged();
    try {
      this.messages.next({ type: 'version', data: { project: this.project, version: await this.version() } });
    } catch {
      // The notices are then missed again, and sent anew.
    }
  }
  close(): void {
    this.closed = true;
    if (this.timer) clearTimeout(this.timer);
    this.messages.complete();
  }

  private presenceChanged(): void {
    this.due = true;
    if (!this.asking && !this.timer) void this.ask();
  }
  private async ask(): Promise<void> {
    this.asking = true;
    this.due = false;
    try {
      this.difference(await this.list());
    } catch {
      // Reported with the next notice.
    }
    this.asking = false;
    if (this.closed) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      if (this.due) void this.ask();
    }, LIMITS.live.presence);
  }
  private difference(list: PresentDto[]): void {
    const now = new Map(list.map((w) => [w.client, w]));
    const came = list.filter((w) => {
      const was = this.present.get(w.client);
      return !was || was.who !== w.who || was.place !== w.place;
    });
    const left = [...this.present.keys()].filter((client) => !now.has(client));
    this.present = now;
    if (came.length > 0 || left.length > 0) this.messages.next(this.presence({ came, left }));
  }
  private presence(data: Omit<PresenceEventDto, 'project'>): MessageEvent {
    return { type: 'presence', data: { project: this.project, ...data } };
  }
}
