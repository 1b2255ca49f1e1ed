import type { PresentWindow } from '../../api/client.js';
import { liveWindows } from '../windows.js';
import { CollaborationStream, type CollaborationEvent } from './collaboration-stream.js';

/** What a window hears of the project that it has open. */
export interface CollaborationListener {
  version: (version: number) => void;
  /** All other windows of the project. */
  present: (windows: PresentWindow[]) => void;
  builds: () => void;
  plays: () => void;
  /** Whether the server can be heard. */
  connected: (is: boolean) => void;
}
type Window = PresentWindow & { project: string };
type Message =
  | { tells: 'here'; window: Window }
  | { tells: 'gone'; client: string }
  | { tells: 'who' }
  | { tells: 'event'; event: CollaborationEvent }
  | { tells: 'connected'; is: boolean };
const NAME = 'oquel.live';
const LOOK_MS = 10_000;

/**
 * Lets all windows of a browser share one stream of events, since a browser keeps few connections to a server. One window
 * leads: it holds a lock, has the stream, and passes on what it hears. When it ends, the lock goes to another one. Windows
 * say to it where they are.
 */
export class CollaborationHub {
  private readonly channel = new BroadcastChannel(NAME);
  private readonly others = new Map<string, PresentWindow>();
  private leading: Leader | null = null;
  private readonly ending = new AbortController();

  constructor(
    private readonly project: string,
    private readonly client: string,
    private readonly who: () => string,
    private readonly place: () => string,
    private readonly listener: CollaborationListener,
  ) {
    this.channel.onmessage = ({ data }: MessageEvent<Message>) => this.take(data);
    this.moved();
    const { signal } = this.ending;
    navigator.locks
      .request(NAME, { signal }, () => this.lead(signal))
      .catch(() => {
        // The window has ended before it was its turn.
      });
    window.addEventListener('pagehide', this.close);
  }

  /** Says that the window is somewhere else now. */
  moved(): void {
    const { project, client } = this;
    this.say({ tells: 'here', window: { project, client, who: this.who(), place: this.place() } });
  }
  close = (): void => {
    if (this.ending.signal.aborted) return;
    window.removeEventListener('pagehide', this.close);
    this.say({ tells: 'gone', client: this.client });
    this.ending.abort();
    this.channel.close();
  };

  private lead(signal: AbortSignal): Promise<void> {
    return new Promise((resolve) => {
      if (signal.aborted) return resolve();
      const leader = new Leader((message) => {
        this.channel.postMessage(message);
        this.take(message);
      });
      this.leading = leader;
      this.say({ tells: 'who' });
      this.moved();
      signal.addEventListener('abort', () => {
        leader.close();
        resolve();
      });
    });
  }
  private say(message: Message): void {
    this.channel.postMessage(message);
    this.leading?.take(message);
  }
  private take(message: Message): void {
    switch (message.tells) {
      case 'who':
        return this.moved();
      case 'here':
      case 'gone':
        return this.leading?.take(message);
      case 'connected':
        return this.listener.connected(message.is);
      case 'event':
        if (message.event.data.project === this.project) this.hear(message.event);
    }
  }
  private hear({ type, data }: CollaborationEvent): void {
    if (type === 'version') this.listener.version(data.version);
    else if (type === 'builds') this.listener.builds();
    else if (type === 'plays') this.listener.plays();
    else {
      if (data.all) this.others.clear();
      for (const w of data.all ?? data.came ?? []) this.others.set(w.client, w);
      for (const client of data.left ?? []) this.others.delete(client);
      this.listener.present([...this.others.values()].filter((w) => w.client !== this.client));
    }
  }
}

/** What the leading window does besides: the stream, and who all windows are. */
class Leader {
  private readonly windows = new Map<string, Window>();
  private readonly latest = new Map<string, { version: number; present: Map<string, PresentWindow> }>();
  private isConnected = false;
  private readonly stream: CollaborationStream;
  private readonly looking: ReturnType<typeof setInterval>;

  constructor(private readonly pass: (message: Message) => void) {
    this.stream = new CollaborationStream(
      (event) => {
        this.note(event);
        pass({ tells: 'event', event });
      },
      (is) => {
        this.isConnected = is;
        pass({ tells: 'connected', is });
      },
    );
    this.looking = setInterval(() => void this.look(), LOOK_MS);
  }
  close(): void {
    clearInterval(this.looking);
    this.stream.close();
  }

  take(message: Message): void {
    if (message.tells === 'here') {
      const { window } = message;
      const isNew = this.windows.get(window.client)?.project !== window.project;
      this.windows.set(window.client, window);
      if (isNew) this.tellLatest(window.project);
    } else if (message.tells === 'gone') this.windows.delete(message.client);
    else return;
    this.stream.speakFor([...this.windows.values()]);
  }

  /** A window that comes later has not heard what leads here. */
  private tellLatest(project: string): void {
    const latest = this.latest.get(project);
    if (!latest || !this.isConnected) return;
    const { version, present } = latest;
    this.pass({ tells: 'connected', is: true });
    this.pass({ tells: 'event', event: { type: 'version', data: { project, version } } });
    this.pass({ tells: 'event', event: { type: 'presence', data: { project, all: [...present.values()] } } });
  }
  private note({ type, data }: CollaborationEvent): void {
    const latest = this.latest.get(data.project) ?? { version: 0, present: new Map<string, PresentWindow>() };
    this.latest.set(data.project, latest);
    if (type === 'version') latest.version = data.version;
    if (type !== 'presence') return;
    if (data.all) latest.present.clear();
    for (const w of data.all ?? data.came ?? []) latest.present.set(w.client, w);
    for (const client of data.left ?? []) latest.present.delete(client);
  }
  /** Windows that ended without a word. */
  private async look(): Promise<void> {
    const live = await liveWindows();
    const gone = [...this.windows.keys()].filter((client) => !live.has(client));
    if (gone.length === 0) return;
    for (const client of gone) this.windows.delete(client);
    this.stream.speakFor([...this.windows.values()]);
  }
}
