import type { Change, Project } from '@oquel/core';
import type { Edits, OpenedProject } from '../../api/client.js';
import type { Entry } from './entry.js';

/** The server, as the queue asks it. Each throws ApiProblem for what the server says, Unreachable for all else. */
export interface QueueServer {
  open(): Promise<OpenedProject>;
  since(version: number): Promise<Edits>;
  /** Sends an entry; the answer holds the edits after the version that the window has. */
  send(entry: Entry, have: number): Promise<Edits>;
}
/** Where entries are kept until they are stored: they outlive the window. */
export interface EntryStore {
  all(): Promise<Entry[]>;
  put(entries: readonly Entry[]): Promise<void>;
  remove(keys: readonly string[]): Promise<void>;
}
export interface Clock {
  /** Runs something later; the answer takes that back. */
  later(ms: number, run: () => void): () => void;
}

/** What the queue tells whoever shows it. */
export interface QueueListener {
  /** The project on the screen is another one now: by these changes (null: by more than can be said). */
  shown(
    project: Project,
    changes: readonly Change[] | null,
    edit: { label: string; who: string | null } | null,
  ): void;
  /** Anything else that the queue says of itself has changed. */
  changed(): void;
  /** Something for the person. */
  notice(text: string, kind: 'info' | 'refused'): void;
}
export interface QueueOptions {
  project: string;
  /** This window. */
  client: string;
  /** This browser: its edits are one's own. */
  author: string;
  who: () => string;
  newKey: () => string;
  now: () => number;
}
