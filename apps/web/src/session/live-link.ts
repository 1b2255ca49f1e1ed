import { sendPlace, type Present } from '../api/client.js';

export interface VersionNotice {
  version: number;
  undo: string | null;
  redo: string | null;
}
/** What comes over the link. */
export interface LiveListener {
  version: (notice: VersionNotice) => void;
  present: (windows: Present[]) => void;
  builds: () => void;
  /** Whether the link holds. */
  connected: (is: boolean) => void;
}
const AGAIN_MS = 2000;
/** A browser keeps six connections to a server, so a window that nobody looks at gives up its own after this time. */
const HIDDEN_MS = 8000;

/** The stream of a project's events, made again whenever it is lost; and where this window is, told to the others. */
export class LiveLink {
  /** Names this window among all that have the project open. */
  readonly client = crypto.randomUUID();
  private source: EventSource | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private closed = false;

  constructor(
    private readonly id: string,
    private readonly who: () => string,
    private readonly place: () => string,
    private readonly listener: LiveListener,
  ) {
    document.addEventListener('visibilitychange', this.onVisibility);
    this.open();
  }

  /** Says that the window is somewhere else now. */
  moved(): void {
    if (!this.source) return;
    sendPlace(this.id, this.client, { who: this.who(), place: this.place() }).catch(() => {
      // The link says so too if the server is away, and tells the place when it is back.
    });
  }
  close(): void {
    this.closed = true;
    document.removeEventListener('visibilitychange', this.onVisibility);
    this.drop();
  }

  private open(): void {
    this.drop();
    const query = new URLSearchParams({ client: this.client, who: this.who(), place: this.place() });
    const source = new EventSource(`/api/projects/${this.id}/live?${query}`);
    this.source = source;
    const on = (type: string, take: (data: never) => void): void =>
      source.addEventListener(type, (e) => take(JSON.parse(e.data as string) as never));
    on('version', this.listener.version);
    on('presence', this.listener.present);
    on('builds', this.listener.builds);
    source.onopen = () => this.listener.connected(true);
    source.onerror = () => {
      this.listener.connected(false);
      // The browser gives up when it is refused; and it would go on with the place of long ago.
      this.drop();
      this.later(AGAIN_MS, () => this.open());
    };
  }
  private drop(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    this.source?.close();
    this.source = null;
  }
  private later(ms: number, what: () => void): void {
    if (this.closed) return;
    if (this.timer) clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.timer = null;
      what();
    }, ms);
  }
  private readonly onVisibility = (): void => {
    if (document.visibilityState === 'hidden') this.later(HIDDEN_MS, () => this.drop());
    else if (!this.source) this.open();
    else if (this.timer) {
      clearTimeout(this.timer);
      this.timer = null;
    }
  };
}
