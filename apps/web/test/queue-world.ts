import { applyChanges, type Change, type Project } from '@oquel/core';
import { ApiProblem, Unreachable } from '../src/api/problem.js';
import { EditQueue } from '../src/session/queue/edit-queue.js';
import { changesOf, type Entry } from '../src/session/queue/entry.js';
import type { EntryStore } from '../src/session/queue/ports.js';
import { ModelServer } from './model-server.js';

export const SMALL: Project = {
  format: 'oquel.project/1',
  name: 'Station',
  assets: [
    {
      id: 'pad',
      kind: 'scene',
      bindings: ['b0', 'b1', 'b2'].map((id) => ({
        id,
        from: { at: '.', event: 'onA' },
        to: { at: '.', action: 'a' },
      })),
    },
  ],
};

/** Entries as the browser keeps them for all windows: what is put in is copied. */
class Shelf implements EntryStore {
  readonly entries = new Map<string, string>();
  all(): Promise<Entry[]> {
    return Promise.resolve([...this.entries.values()].map((text) => JSON.parse(text) as Entry));
  }
  put(entries: readonly Entry[]): Promise<void> {
    for (const entry of entries) this.entries.set(entry.key, JSON.stringify(entry));
    return Promise.resolve();
  }
  remove(keys: readonly string[]): Promise<void> {
    for (const key of keys) this.entries.delete(key);
    return Promise.resolve();
  }
}

/** What the model knows of an edit that somebody has asked for: what stood on their screen. */
interface Asked {
  keys: string[];
  /** Versions and keys that had gone into what they saw. */
  seenVersion: number;
  seenKeys: Set<string>;
  changes: readonly Change[];
  /** Given up by a choice of theirs, or by their own undo before it was stored. */
  dropped: boolean;
}
type Message = { window: Window; run: () => void; lose: () => void };

/** A server, windows, and a network between them that does one thing at a time, when it is asked to. */
export class QueueWorld {
  readonly server = new ModelServer(SMALL);
  readonly shelf = new Shelf();
  readonly windows: Window[] = [];
  readonly wire: Message[] = [];
  readonly timers = new Set<{ window: Window; run: () => void }>();
  readonly asked = new Map<string, Asked>();
  /** Kinds of failure that the server answers with until it is well. */
  failing: (() => Error) | null = null;
  /** Edits whose own undo was asked for before they were stored, and which then met something. */
  readonly undone = new Set<string>();
  keys = 0;
  time = 0;

  /** Tells all windows of the version, each by a message of its own; one that is lost comes when the stream is made again. */
  tell(): void {
    for (const window of this.windows) this.tellWindow(window, this.server.version);
  }
  private tellWindow(window: Window, version: number): void {
    const lose = (): void => this.tellWindow(window, this.server.version);
    this.wire.push({ window, run: () => window.queue.heard(version), lose });
  }
  givenUp(keys: readonly string[]): boolean {
    return keys.some((key) => this.undone.has(key));
  }

  window(i: number): Window {
    return (this.windows[i] ??= new Window(this, i));
  }
  /** Lets every answer that is due have its effect. */
  async calm(): Promise<void> {
    for (let i = 0; i < 12; i++) await Promise.resolve();
    await new Promise((resolve) => setImmediate(resolve));
  }
  /** Everything arrives, every pause ends, every choice is made, until nothing happens any more. */
  async quiet(): Promise<void> {
    this.failing = null;
    for (let i = 0; i < 2000; i++) {
      await this.calm();
      const message = this.wire.shift();
      const [timer] = this.timers;
      if (message) message.run();
      else if (timer) {
        this.timers.delete(timer);
        timer.run();
      } else {
        const open = this.windows.find((w) => w.queue.met.length > 0);
        if (!open) return;
        open.settle(i % 2 === 0 ? 'mine' : 'theirs');
      }
    }
    throw new Error('it never came to rest');
  }
}

/** One window, which may be closed and opened again. */
export class Window {
  queue!: EditQueue;
  client = '';
  shown!: Project;
  notices: string[] = [];
  /** What the audit worker would have: it hears of changes alone. */
  mirror!: Project;
  private lives = 0;

  constructor(
    readonly world: QueueWorld,
    readonly index: number,
  ) {
    this.open(`w${index}`);
  }
  /** Two of the windows belong to one browser. */
  get author(): string {
    return `browser ${this.index >> 1}`;
  }

  private open(client: string): void {
    const { world } = this;
    this.client = client;
    this.lives++;
    const life = this.lives;
    const opened = world.server.open(this.author);
    this.shown = this.mirror = opened.document;
    const options = {
      project: 'p',
      client,
      author: this.author,
      who: () => this.author,
      newKey: () => `k${world.keys++}`,
      now: () => world.time++,
    };
    this.queue = new EditQueue(
      opened,
      {
        open: () => this.request(() => world.server.open(this.author)),
        since: (have) => this.request(() => world.server.since(have, this.author)),
        send: (entry, have) => {
          // As it goes over the wire: what the window changes afterwards is not in it.
          const sent = structuredClone(entry);
          return this.request(() => world.server.send(sent, have, this.author));
        },
      },
      world.shelf,
      {
        later: (_ms, run) => {
          const timer = { window: this, run };
          world.timers.add(timer);
          return () => world.timers.delete(timer);
        },
      },
      options,
      {
        shown: (project, changes) => {
          if (life !== this.lives) return;
          this.shown = project;
          this.mirror = changes ? applyChanges(this.mirror, changes).project : project;
        },
        changed: () => undefined,
        notice: (text) => this.notices.push(text),
      },
    );
  }
  private request<T>(handle: () => T): Promise<T> {
    const { world } = this;
    return new Promise((resolve, reject) => {
      const lose = (): void => reject(new Unreachable('no answer'));
      const arrive = (): void => {
        let answer: () => void;
        try {
          if (world.failing) throw world.failing();
          const before = world.server.version;
          const value = structuredClone(handle());
          if (world.server.version > before) world.tell();
          answer = () => resolve(value);
        } catch (error) {
          if (!(error instanceof ApiProblem || error instanceof Unreachable)) throw error;
          answer = () => reject(error);
        }
        world.wire.push({ window: this, run: answer, lose });
      };
      world.wire.push({ window: this, run: arrive, lose });
    });
  }

  /** Makes an edit of what is on the screen, if there is something to edit. */
  edit(kind: number): void {
    const { bindings = [] } = this.shown.assets[0];
    const n = this.world.keys;
    const head = { list: 'bindings', asset: 'pad' } as const;
    const one = bindings[kind % Math.max(1, bindings.length)];
    const item = (id: string): object => ({
      id,
      from: { at: '.', event: 'onA' },
      to: { at: '.', action: 'a' },
      note: `n${n}`,
    });
    const change =
      kind % 5 === 0 || !one
        ? { op: 'insert', ...head, index: kind % 4, item: item(`i${n}`) }
        : kind % 5 === 1
          ? { op: 'remove', ...head, id: one.id }
          : kind % 5 === 2
            ? { op: 'set', part: 'note', value: `n${n}` }
            : kind % 5 === 3
              ? { op: 'move', ...head, id: one.id, index: kind % 3 }
              : { op: 'replace', ...head, id: one.id, item: item(one.id) };
    const changes = [change] as Change[];
    this.asking(changes, () => this.queue.edit({ label: `edit ${n}`, changes }));
  }
  step(way: 'undo' | 'redo'): void {
    const [next] = this.queue.ahead[way];
    if (next?.of) this.world.undone[way === 'undo' ? 'add' : 'delete'](next.of);
    this.queue.step(way);
  }
  takeBack(version: number): void {
    this.queue.ask({ way: 'take-back', version, label: `undid ${version}` });
  }
  settle(choice: 'mine' | 'theirs'): void {
    const [group] = this.queue.met;
    if (!group) return;
    const asked = group.map((e) => [...this.world.asked.values()].find((a) => a.keys.includes(e.key))!);
    const before = this.world.keys;
    this.queue.settle(choice);
    if (choice === 'theirs') return;
    // Asked for anew, upon what is on the screen now; one that cannot be applied stays aside under its old key.
    for (const { entry } of this.pendings.filter((p) => Number(p.entry.key.slice(1)) >= before)) {
      const place = asked.findIndex((a) => same(a.changes, changesOf(entry)));
      if (place < 0) continue;
      const [at] = asked.splice(place, 1);
      at.keys.push(entry.key);
      this.sees(at, entry.key);
    }
  }
  private asking(changes: readonly Change[], ask: () => void): void {
    const key = `k${this.world.keys}`;
    const asked: Asked = { keys: [key], seenVersion: 0, seenKeys: new Set(), changes, dropped: false };
    this.sees(asked, key);
    ask();
    this.world.asked.set(key, asked);
  }
  /** What stands on the screen when something is asked for. */
  private sees(asked: Asked, but: string): void {
    asked.seenVersion = this.queue.version;
    asked.seenKeys = new Set(
      this.pendings.filter((p) => p.shown && p.entry.key !== but).map((p) => p.entry.key),
    );
  }
  get pendings(): { entry: Entry; shown: unknown }[] {
    return (this.queue as unknown as { overlay: { pendings: { entry: Entry; shown: unknown }[] } }).overlay
      .pendings;
  }

  /** The window is loaded anew: it has its name still. Or it is closed, and another one opened in its place. */
  async reload(asAnother: boolean): Promise<void> {
    this.queue.close();
    for (const timer of this.world.timers) if (timer.window === this) this.world.timers.delete(timer);
    // What was on the way may arrive all the same; nobody hears the answer.
    if (this.world.keys % 2 === 0) {
      const others = this.world.wire.filter((m) => m.window !== this);
      this.world.wire.splice(0, this.world.wire.length, ...others);
    }
    this.open(asAnother ? `${this.client}'` : this.client);
    const live = new Set(this.world.windows.map((w) => w.client));
    await this.queue.takeUp((client) => live.has(client));
    if (this.queue.found.length > 0) this.queue.takeFound('send');
  }
}
function same(a: unknown, b: unknown): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}
