import type { ChangeSet } from '@oquel/core';
import type { Edits, HistoryStep, LoggedEdit, OpenedProject } from '../../api/client.js';
import { changesOf, type Entry, type Job } from './entry.js';
import { Exchanges } from './exchanges.js';
import type { Clock, EntryStore, QueueListener, QueueOptions, QueueServer } from './ports.js';
import { QueueEntries } from './queue-entries.js';
import { refusalOf } from './refusal.js';
import { stepsAhead, type StepsAhead } from './steps-ahead.js';

/** So often the server may fail at the same entry before that is set aside. */
const FAILURES = 5;
/**
 * Owns every change of an open project's state: edits made here, what the server answers, what others do, opening anew,
 * undo and redo. One serial loop sends what waits, in order, and fetches what others did; whatever it learns goes
 * underneath what waits (see {@link Overlay}), so that nothing is lost, doubled, or applied to what its author never saw.
 *
 *     edit, undo, ...  ->  queued  -- sent, answered -->  stored
 *                            |  somebody changed the same --> met  -- mine --> queued again, on top of theirs
 *                            |                                     -- theirs --> aside
 *                            |  refused, or failed at again and again --> aside -- tried again --> queued
 *                            |                                                  -- dropped
 *                            |  no answer, or one that does not end it: after a pause the same again
 */
export class EditQueue extends QueueEntries {
  private stored: { undo: HistoryStep[]; redo: HistoryStep[] };
  /** Entries of windows that are gone. */
  private foundEntries: Entry[] = [];
  /** The newest version that was heard of. */
  private known: number;
  private mustOpen = false;
  /** The server has said that there is more than this window knows. */
  private mustLook = false;
  /** Entries that are stored, though what stands beside them is only known once the project is opened anew. */
  private readonly done = new Set<string>();
  private failures = 0;
  private readonly exchanges: Exchanges;

  constructor(
    opened: OpenedProject,
    private readonly server: QueueServer,
    store: EntryStore,
    clock: Clock,
    options: QueueOptions,
    listener: QueueListener,
  ) {
    super(opened, store, options, listener);
    this.stored = opened;
    this.known = opened.version;
    this.exchanges = new Exchanges(
      { isBehind: () => this.isBehind(), once: () => this.once(), changed: () => this.changed() },
      clock,
    );
  }
  protected send(): void {
    void this.exchanges.run();
  }

  // --- What it says

  /** Why the server cannot be asked now; null if it can. */
  get trouble(): string | null {
    return this.exchanges.trouble;
  }
  /** Entries that met edits of others, by group, the oldest first; once those are on the screen. */
  get met(): Entry[][] {
    if (this.mustLook || this.mustOpen) return [];
    return this.parked.groups('met');
  }
  /** Entries that are kept until they are tried again or dropped, by group. */
  get aside(): Entry[][] {
    return this.parked.groups('aside');
  }
  /** Entries that windows which are gone have left. */
  get found(): readonly Entry[] {
    return this.foundEntries;
  }
  get ahead(): StepsAhead {
    return stepsAhead(
      this.stored,
      this.overlay.pendings.map((p) => p.entry),
    );
  }
  /** Whether entries wait that would not outlive the window. */
  get unkept(): boolean {
    return this.keeper.hasFailed && this.waiting + this.parked.count > 0;
  }

  // --- What people do

  /** Applies an edit here at once and sends it; false where too many wait. @throws EditRefused when it cannot be applied */
  edit(changeSet: ChangeSet): boolean {
    if (this.isFull()) return false;
    const entry = this.entry({ way: 'edit', changeSet });
    const changes = this.overlay.push(entry, true);
    this.keeper.keep([entry]);
    this.listener.shown(this.project, changes, { label: changeSet.label, who: null });
    this.changed();
    void this.exchanges.run();
    return true;
  }
  /** Takes one's own last edit back, or brings the last undone one again: that which stands ahead now. */
  step(way: 'undo' | 'redo'): void {
    const [next] = this.ahead[way];
    if (!next) return this.listener.notice(`there is no edit to ${way}`, 'info');
    this.ask({ way, ...next });
  }
  /** Asks for something that the server works out, upon the version that was looked at. */
  ask(job: Exclude<Job, { way: 'edit' }>, base = this.version): void {
    if (this.isFull()) return;
    const entry = { ...this.entry(job), base };
    const changes = this.overlay.push(entry, false);
    this.keeper.keep([entry]);
    if (changes.length > 0) {
      const label = `${job.way === 'undo' ? 'undone' : 'redone'}: ${job.label}`;
      this.listener.shown(this.project, changes, { label, who: null });
    }
    this.changed();
    void this.exchanges.run();
  }
  /** Ends the oldest choice: by doing one's own over what the others did, or by leaving theirs and keeping one's own aside. */
  settle(choice: 'mine' | 'theirs'): void {
    const [group] = this.met;
    if (!group) return;
    if (choice === 'mine') return this.redoGroup(group);
    const names = [...new Set(group[0].parked!.theirs.map((e) => e.who))].join(' and ');
    this.park(group, { ...group[0].parked!, how: 'aside', words: `left as ${names} had it` });
    this.changed();
  }
  /** Tries a group again that was set aside. */
  retry(group: string): void {
    const entries = this.parked.ofGroup(group);
    if (entries.length > 0) this.redoGroup(entries);
  }
  /** Gives a group up that was set aside. */
  drop(group: string): void {
    const entries = this.parked.ofGroup(group);
    this.parked.remove(entries);
    this.forget(entries);
    this.changed();
  }
  /** Sends what windows that are gone have left, or drops it. */
  takeFound(choice: 'send' | 'drop'): void {
    const entries = this.foundEntries;
    this.foundEntries = [];
    if (choice === 'drop') this.forget(entries);
    else this.adopt(entries);
    this.changed();
    void this.exchanges.run();
  }

  // --- What happens to it

  /** Takes up what was kept: one's own at once; what is left of windows that are gone is offered. */
  async takeUp(isLive: (client: string) => boolean): Promise<void> {
    const kept = await this.keeper.all();
    if (!kept || this.isClosed) return;
    const here = new Set([...this.overlay.pendings.map((p) => p.entry.key), ...this.parked.keys()]);
    const fresh = kept.filter((e) => !here.has(e.key)).sort((a, b) => a.order - b.order);
    this.lastOrder = kept.reduce((last, e) => Math.max(last, e.order), this.lastOrder);
    this.adopt(fresh.filter((e) => e.client === this.options.client));
    this.foundEntries = fresh.filter((e) => e.client !== this.options.client && !isLive(e.client));
    this.changed();
    void this.exchanges.run();
  }
  /** The version that the server has. */
  heard(version: number): void {
    this.known = Math.max(this.known, version);
    void this.exchanges.run();
  }
  /** The server can be reached again: what waits need not wait for its turn. */
  reachable(): void {
    this.exchanges.hurry();
  }
  close(): void {
    this.exchanges.close();
  }
  private get isClosed(): boolean {
    return this.exchanges.isClosed;
  }
  /** Done when everything that was to be kept until now is kept. */
  kept(): Promise<void> {
    return this.keeper.done();
  }

  // --- The loop

  private isBehind(): boolean {
    return this.mustOpen || this.mustLook || this.waiting > 0 || this.known > this.version;
  }
  /** One exchange with the server. @throws whatever means that the same is to be tried again */
  private async once(): Promise<void> {
    const heard = this.known;
    if (this.mustOpen) {
      const opened = await this.server.open();
      if (this.isClosed) return;
      this.reset(opened);
      // What was heard meanwhile counts; what was heard before is answered.
      if (this.known === heard) this.known = this.version;
      return;
    }
    const [head] = this.overlay.pendings;
    if (!head) {
      const edits = await this.server.since(this.version);
      if (this.isClosed) return;
      this.take(edits);
      if (this.known === heard) this.known = Math.max(edits.version, this.version);
      return;
    }
    const { entry } = head;
    const { job } = entry;
    // What it would undo was never stored.
    if ((job.way === 'undo' || job.way === 'redo') && job.version === null) return this.leaveOut([entry]);
    let edits: Edits;
    try {
      edits = await this.server.send(entry, this.version);
    } catch (error) {
      if (this.isClosed) return;
      return this.refused(entry, error);
    }
    if (this.isClosed) return;
    this.failures = 0;
    this.take(edits, entry);
  }

  /** Takes in what the server has answered; with `sent` that entry is among what is stored. */
  private take(answer: Edits, sent?: Entry): void {
    const { version, edits, complete, undo, redo } = answer;
    // Whatever was asked, the answer says all that there is.
    this.mustLook = false;
    const fresh = edits.filter((e) => e.version > this.version);
    const follows = fresh.every((e, i) => e.version === this.version + 1 + i);
    // There is more than an answer holds, or the server has gone back to an earlier state.
    if (!complete || !follows || version < this.version) return this.openAnew(sent);
    const ownKeys = new Set(this.overlay.pendings.map((p) => p.entry.key));
    const isMine = (e: LoggedEdit): boolean =>
      e.author === this.options.author || (e.key !== null && ownKeys.has(e.key));
    const filled = fresh.map((e) => withChanges(e, sent));
    if (version >= this.version) this.stored = { undo, redo };
    if (filled.length > 0) {
      try {
        const changes = this.overlay.take(filled, isMine);
        const others = filled.filter((e) => e.key === null || !ownKeys.has(e.key));
        const last = others.at(-1) ?? filled[filled.length - 1];
        const who = others.length > 0 ? last.who : null;
        if (changes.length > 0) this.listener.shown(this.project, changes, { label: labelIn(last), who });
      } catch {
        return this.openAnew(sent);
      }
    }
    const stored = [...filled.flatMap((e) => (e.key !== null && ownKeys.has(e.key) ? [e.key] : []))];
    if (sent) stored.push(sent.key);
    this.keeper.forget(stored);
    // An entry that was stored long before is not among what is new.
    if (sent) this.leaveOut([sent]);
  }
  private openAnew(sent?: Entry): void {
    this.mustOpen = true;
    if (sent) this.done.add(sent.key);
  }
  private reset(opened: OpenedProject): void {
    this.mustOpen = false;
    this.mustLook = false;
    this.stored = opened;
    this.overlay.pendings = this.overlay.pendings.filter((p) => !this.done.has(p.entry.key));
    this.keeper.forget([...this.done]);
    this.done.clear();
    this.overlay.reset(opened.version, opened.document);
    this.listener.shown(this.project, null, null);
  }

  private refused(entry: Entry, error: unknown): void {
    const refusal = refusalOf(error);
    if (refusal.kind === 'wait') {
      if (refusal.failed && ++this.failures >= FAILURES) {
        this.failures = 0;
        return this.setAside(entry, { how: 'aside', words: refusal.words, theirs: [] });
      }
      throw error;
    }
    this.failures = 0;
    this.mustLook = true;
    if (refusal.kind === 'said') {
      this.leaveOut([entry]);
      return this.listener.notice(refusal.words, 'info');
    }
    if (refusal.kind === 'met') {
      const theirs = (refusal.theirs as LoggedEdit[]).map(({ who, label, changes }) => ({
        who,
        label,
        changes,
      }));
      return this.setAside(entry, { how: 'met', words: refusal.words, theirs });
    }
    this.setAside(entry, { how: 'aside', words: refusal.words, theirs: [] });
    this.listener.notice(refusal.words, 'refused');
  }
}

/** The server does not send back what it has just been sent. */
function withChanges(edit: LoggedEdit, sent: Entry | undefined): LoggedEdit {
  if (!sent || edit.key !== sent.key || edit.changes.length > 0) return edit;
  return { ...edit, changes: [...changesOf(sent)] };
}
function labelIn({ kind, label }: LoggedEdit): string {
  return `${kind === 'undo' ? 'undone: ' : kind === 'redo' ? 'redone: ' : ''}${label}`;
}
