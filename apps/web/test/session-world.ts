import type { ChangeSet, Project } from '@oquel/core';
import { newDatabase, TestServer } from '../../server/test/harness.js';
import { engage, smallProject } from '../../server/test/small-project.js';
import { Auditor } from '../src/workers/auditor.js';
import type { AuditorPort } from '../src/session/auditor-questions.js';
import type { ProjectSession as Session } from '../src/session/project-session.js';
import type { Entry } from '../src/session/queue/entry.js';
import type { EntryStore } from '../src/session/queue/ports.js';
import type { SessionState } from '../src/session/session-state.js';

type Opened = ConstructorParameters<typeof Session>[0];

/** A real server with a project, and sessions of it as windows have them. */
export class World {
  id = '';
  private constructor(
    public server: TestServer,
    readonly databaseUrl: string,
    private readonly sessions: { ProjectSession: typeof Session },
  ) {}

  static async start(): Promise<World> {
    const databaseUrl = await newDatabase();
    const server = await TestServer.start(databaseUrl);
    // The client speaks to the address of its page.
    Object.assign(globalThis, { location: { origin: server.url } });
    return new World(server, databaseUrl, await import('../src/session/project-session.js'));
  }
  async newProject(): Promise<void> {
    this.kept.clear();
    this.id = await this.server.import(smallProject());
  }
  /** A window of somebody, who has one browser. */
  async open(who: string): Promise<{ session: Session; notices: string[] }> {
    const opened = await this.server.get(`/api/projects/${this.id}?author=${this.author(who)}`);
    return this.session(opened.body as Opened, who);
  }
  author(who: string): string {
    const known = this.authors.get(who) ?? crypto.randomUUID();
    this.authors.set(who, known);
    return known;
  }
  private readonly authors = new Map<string, string>();
  /** What the browser keeps. */
  readonly kept = new Map<string, Entry>();
  /** A window that has been opened. */
  session(opened: Opened, who: string): { session: Session; notices: string[] } {
    const store: EntryStore = {
      all: () => Promise.resolve([...this.kept.values()].filter((e) => e.project === this.id)),
      put: (entries) => {
        for (const entry of entries) this.kept.set(entry.key, structuredClone(entry));
        return Promise.resolve();
      },
      remove: (keys) => {
        for (const key of keys) this.kept.delete(key);
        return Promise.resolve();
      },
    };
    const window = { client: who, author: this.author(who), who: () => who, store, access: null };
    const session = new this.sessions.ProjectSession(opened, auditor(), window);
    void session.takeUp(() => false);
    const notices: string[] = [];
    session.onNotice((n) => notices.push(n.text));
    return { session, notices };
  }
  async document(): Promise<Project> {
    return (await this.server.get(`/api/projects/${this.id}/document`)).body as Project;
  }
  async storedIds(): Promise<string[]> {
    return (await this.document()).assets[0].bindings!.map((b) => b.id);
  }
}

/** The auditor as the worker runs it, without the worker: it answers later. */
function auditor(): AuditorPort {
  const own = new Auditor();
  return new Proxy(own, {
    get:
      (_, name: keyof AuditorPort) =>
      async (...args: unknown[]): Promise<unknown> =>
        await (own[name] as (...a: unknown[]) => unknown).apply(own, args),
  }) as unknown as AuditorPort;
}

/** Waits until the state is as asked, by subscribing as a view does. */
export function until(session: Session, wanted: (s: SessionState) => boolean): Promise<SessionState> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => reject(new Error(JSON.stringify(session.getState().saving))), 20_000);
    const look = (): void => {
      if (!wanted(session.getState())) return;
      clearTimeout(timer);
      stop();
      resolve(session.getState());
    };
    const stop = session.subscribe(look);
    look();
  });
}
export const settled = (session: Session): Promise<SessionState> =>
  until(
    session,
    (s) => s.saving === 'saved' && s.waiting === 0 && s.audit !== null && s.lastEdit?.change !== null,
  );
export const add = (bindingId: string, brake: string): ChangeSet => ({
  label: `wired ${brake}`,
  changes: [
    { op: 'insert', list: 'bindings', asset: 'pylon-ridge', index: 99, item: engage(bindingId, brake) },
  ],
});
export const remove = (bindingId: string): ChangeSet => ({
  label: `removed ${bindingId}`,
  changes: [{ op: 'remove', list: 'bindings', asset: 'pylon-ridge', id: bindingId }],
});
export const ids = (s: SessionState): string[] => s.project.assets[0].bindings!.map((b) => b.id);
