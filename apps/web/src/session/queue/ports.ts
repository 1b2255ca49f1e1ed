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
