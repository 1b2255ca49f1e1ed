import type { Entry } from './entry.js';
import type { EntryStore } from './ports.js';

/** Keeps entries where they outlive the window, one write after the other. */
export class KeptEntries {
  private writing: Promise<void> = Promise.resolve();
  /** Whether something could not be kept, or looked up. */
  hasFailed = false;

  constructor(
    private readonly store: EntryStore,
    private readonly onFailure: () => void,
  ) {}

  /** All that was kept, also by other windows; null where the browser does not say. */
  async all(): Promise<Entry[] | null> {
    try {
      return await this.store.all();
    } catch {
      this.hasFailed = true;
      return null;
    }
  }
  keep(entries: readonly Entry[]): void {
    if (entries.length > 0) this.write(() => this.store.put(entries));
  }
  forget(keys: readonly string[]): void {
    if (keys.length > 0) this.write(() => this.store.remove(keys));
  }
  /** Done when everything is kept that was to be until now. */
  done(): Promise<void> {
    return this.writing;
  }
  /** Where the browser has no room, the window says so before it is closed. */
  private write(what: () => Promise<void>): void {
    this.writing = this.writing.then(what).then(
      () => undefined,
      () => {
        if (this.hasFailed) return;
        this.hasFailed = true;
        this.onFailure();
      },
    );
  }
}
