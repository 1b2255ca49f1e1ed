import { sendWindows, type PresentWindow } from '../../api/client.js';
import { ApiProblem } from '../../api/problem.js';

/** An event of the server, of one project. */
export type CollaborationEvent =
  | { type: 'version'; data: { project: string; version: number } }
  | {
      type: 'presence';
      data: { project: string; all?: PresentWindow[]; came?: PresentWindow[]; left?: string[] };
    }
  | { type: 'builds'; data: { project: string } }
  | { type: 'plays'; data: { project: string } };
const TYPES: readonly CollaborationEvent['type'][] = ['version', 'presence', 'builds', 'plays'];

const AGAIN_MS = 2000;
/** The server says something every five seconds; one that says nothing for so long does not answer. */
const SILENCE_MS = 12_000;
/** What is said is gathered for a moment. */
const GATHER_MS = 150;

/** The one connection of this browser to the server's events; made again whenever it is lost or other projects are followed. */
export class CollaborationStream {
  private source: EventSource | null = null;
  private id = '';
  private followed = '';
  private windows: readonly (PresentWindow & { project: string })[] = [];
  private again: ReturnType<typeof setTimeout> | null = null;
  private silence: ReturnType<typeof setTimeout> | null = null;
  private saying: ReturnType<typeof setTimeout> | null = null;
  private closed = false;

  constructor(
    private readonly event: (event: CollaborationEvent) => void,
    private readonly connected: (is: boolean) => void,
  ) {}

  /** All windows of this browser. */
  speakFor(windows: readonly (PresentWindow & { project: string })[]): void {
    this.windows = windows;
    this.saying ??= setTimeout(() => {
      this.saying = null;
      const projects = [...new Set(this.windows.map((w) => w.project))].sort().join(',');
      if (projects !== this.followed) this.open(projects);
      else void this.say();
    }, GATHER_MS);
  }
  close(): void {
    this.closed = true;
    if (this.saying) clearTimeout(this.saying);
    this.drop();
  }

  private open(projects: string): void {
    this.drop();
    this.followed = projects;
    if (this.closed || projects === '') return;
    this.id = crypto.randomUUID();
    const query = new URLSearchParams({ stream: this.id, projects });
    const source = new EventSource(`/api/live?${query}`);
    this.source = source;
    for (const type of TYPES) {
      source.addEventListener(type, (e) => {
        this.heard();
        this.event({ type, data: JSON.parse(e.data as string) as never });
      });
    }
    source.addEventListener('still', () => this.heard());
    source.onopen = () => {
      this.heard();
      this.connected(true);
      void this.say();
    };
    source.onerror = () => this.lost();
    this.heard();
  }
  private heard(): void {
    if (this.silence) clearTimeout(this.silence);
    this.silence = setTimeout(() => this.lost(), SILENCE_MS);
  }
  private lost(): void {
    this.connected(false);
    this.drop();
    if (!this.closed) this.again = setTimeout(() => this.open(this.followed), AGAIN_MS);
  }
  private drop(): void {
    for (const timer of [this.again, this.silence]) if (timer) clearTimeout(timer);
    this.again = this.silence = null;
    this.source?.close();
    this.source = null;
  }
  private async say(): Promise<void> {
    const { id, source } = this;
    if (!source) return;
    try {
      await sendWindows(id, [...this.windows]);
    } catch (error) {
      // A stream that the server does not know any more is made again; else the stream itself says what is wrong.
      if (error instanceof ApiProblem && error.is('no-stream') && id === this.id && this.source) this.lost();
    }
  }
}
