import {
  applyChanges,
  indexProject,
  overlap,
  reindexProject,
  sidesOf,
  type Change,
  type ChangeSet,
  type Project,
  type Rehearsal,
  type Side,
} from '@oquel/core';
import {
  ApiProblem,
  editsAfter,
  openProject,
  sendEdit,
  sendReplace,
  sendRestore,
  sendStep,
  sendTakeBack,
  Unreachable,
  type Edited,
  type LoggedEdit,
  type Present,
} from '../api/client.js';
import type { VersionNotice } from './live-link.js';
import { AuditorQuestions, today, type AuditorPort } from './auditor-questions.js';
import { Rehearsing } from './rehearsing.js';
import type { Notice, SessionState } from './session-state.js';
import { keepWaiting, keptWaiting, type WaitingEdit } from './waiting-edits.js';
import type { Rehearsed } from '../workers/auditor.js';

type Job = ({ way: 'edit' } & WaitingEdit) | { way: 'ask'; key: string; ask: (at: Asked) => Promise<Edited> };
/** What the server wants to know of whoever asks for an edit that it works out itself. */
interface Asked {
  base: number;
  who: string;
  /** The same when it is sent again, so that it is done once. */
  key: string;
}

const RETRY_MS = 2000;

/**
 * The open project: applies edits at once, sends them to the server one after the other, and has the worker audit each.
 * What the server cannot take now waits and is sent again; what it refuses is taken back and told.
 */
export class ProjectSession extends AuditorQuestions {
  private state: SessionState;
  private version: number;
  private readonly listeners = new Set<() => void>();
  private readonly noticed = new Set<(notice: Notice) => void>();
  private readonly queue: Job[] = [];
  private running = false;
  private closed = false;
  private timer: ReturnType<typeof setTimeout> | null = null;
  protected auditing: Promise<void>;
  /** The date of the last audit. */
  private today = '';

  constructor(
    opened: { id: string; version: number; document: object; undo: string | null; redo: string | null },
    auditor: AuditorPort,
    private readonly who: () => string,
  ) {
    super(auditor);
    const project = opened.document as Project;
    this.version = opened.version;
    this.state = {
      id: opened.id,
      project,
      index: indexProject(project),
      audit: null,
      rehearsed: null,
      lastEdit: null,
      undo: opened.undo,
      redo: opened.redo,
      saving: 'saved',
      waiting: 0,
      connected: true,
      present: [],
      buildsChanged: 0,
      conflicts: [],
    };
    this.rehearsing = new Rehearsing(
      auditor,
      () => this.auditing,
      (rehearsed) => this.set({ rehearsed }),
    );
    this.auditing = this.reaudit(project);
    this.untaken = keptWaiting(opened.id);
    void this.takeUpWaiting();
  }

  /** The version that the server had when it last answered. */
  get storedVersion(): number {
    return this.version;
  }

  getState = (): SessionState => this.state;
  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  onNotice = (listener: (notice: Notice) => void): (() => void) => {
    this.noticed.add(listener);
    return () => this.noticed.delete(listener);
  };
  close(): void {
    this.closed = true;
    this.rehearsing.close();
    if (this.timer) clearTimeout(this.timer);
  }

  /** Applies an edit here at once and sends it. Returns false, with a notice, if it cannot be applied. */
  edit(changeSet: ChangeSet, key: string = crypto.randomUUID()): boolean {
    const job: Job = { way: 'edit', key, changeSet };
    // Counted as waiting from the moment that it is seen.
    this.queue.push(job);
    try {
      this.applyLocally(changeSet.changes, changeSet.label, null);
    } catch (error) {
      this.queue.splice(this.queue.indexOf(job), 1);
      this.notice(error instanceof Error ? error.message : String(error), 'refused');
      return false;
    }
    this.set({ undo: changeSet.label, redo: null });
    this.keep();
    void this.run();
    return true;
  }
  step(way: 'undo' | 'redo'): void {
    this.ask((at) => sendStep(this.state.id, way, at));
  }
  /** Takes back the edit that brought about a version, if nothing later touched the same. */
  takeBack(version: number): void {
    this.ask((at) => sendTakeBack(this.state.id, { ...at, version }));
  }
  /** Makes the project as it was in a build. */
  restore(build: string): void {
    this.ask((at) => sendRestore(this.state.id, build, at));
  }
  /** Makes the project like a document, which was compared with it when it was at that version. */
  replaceBy(text: string, label: string, compared: number): void {
    this.ask(({ who, key }) => sendReplace(this.state.id, { base: compared, label, who, key }, text));
  }
  private ask(ask: (at: Asked) => Promise<Edited>): void {
    this.queue.push({ way: 'ask', key: crypto.randomUUID(), ask });
    void this.run();
  }
  rehearse(rehearsal: Rehearsal): Promise<Rehearsed | null> {
    return this.rehearsing.one(rehearsal);
  }
  stopRehearsing(): void {
    this.rehearsing.stop();
  }
  /** Runs all rehearsals; from then on they run again after every edit. */
  rehearseAll(): Promise<void> {
    return this.rehearsing.all();
  }
  private readonly rehearsing: Rehearsing;
  private rehearseIfAsked(): void {
    const { rehearsed, project } = this.state;
    if (rehearsed || (project.policy?.rehearsals === true && (project.rehearsals ?? []).length > 0)) {
      this.rehearseAll().catch((error: unknown) => this.auditFailed(error));
    }
  }

  /** A new day: waivers end at midnight. */
  newDay(): void {
    if (this.today !== '' && this.today !== today()) this.auditing = this.reaudit(this.state.project);
  }

  // --- What others do

  /** The version that is stored. What the window does not have yet is fetched and applied, once nothing of its own is on the way. */
  async heardVersion({ version, undo, redo }: VersionNotice): Promise<void> {
    this.known = Math.max(this.known, version);
    if (this.running || this.queue.length > 0) return;
    if (version > this.version) await this.catchUp();
    if (this.version === version && this.queue.length === 0) this.set({ undo, redo });
  }
  private known = 0;
  private async catchUp(): Promise<void> {
    const base = this.version;
    let edits: LoggedEdit[];
    try {
      edits = await editsAfter(this.state.id, base);
    } catch {
      // The link tells the version again when it is back.
      return;
    }
    // An edit of this window that was made meanwhile brings the others along.
    if (this.closed || this.running || this.queue.length > 0 || this.version !== base) return;
    try {
      for (const edit of edits) {
        this.applyLocally(edit.changes as Change[], told(edit), edit.who);
        this.version = edit.version;
      }
    } catch {
      await this.reopen([]).catch(() => undefined);
    }
  }
  heardPresent(present: readonly Present[]): void {
    this.set({ present });
  }
  heardBuilds(): void {
    this.set({ buildsChanged: this.state.buildsChanged + 1 });
  }
  heardConnected(connected: boolean): void {
    if (connected !== this.state.connected) this.set({ connected });
    // What waits for the server need not wait for its turn.
    if (connected && this.timer) {
      clearTimeout(this.timer);
      this.retry();
    }
  }
  private retryLater(): void {
    if (!this.closed) this.timer ??= setTimeout(() => this.retry(), RETRY_MS);
  }
  private retry(): void {
    this.timer = null;
    void this.takeUpWaiting();
    void this.run();
  }
  /** Ends the oldest conflict: by doing this window's edit over what the others did, or by leaving theirs. */
  settle(choice: 'mine' | 'theirs'): void {
    const [conflict, ...conflicts] = this.state.conflicts;
    this.set({ conflicts });
    if (choice === 'mine' && conflict) this.edit(conflict.mine);
  }

  /** What was kept over a reload, until it is known what became of it. */
  private untaken: ReturnType<typeof keptWaiting> = null;
  /** Edits that were on their way when the window was loaded anew. */
  private async takeUpWaiting(): Promise<void> {
    const kept = this.untaken;
    if (!kept) return;
    let since: LoggedEdit[];
    try {
      since = await editsAfter(this.state.id, kept.base);
    } catch {
      this.retryLater();
      return;
    }
    if (this.closed || this.untaken !== kept) return;
    this.untaken = null;
    const done = new Set(since.map((e) => e.key));
    const others = since.filter((e) => !kept.edits.some((w) => w.key === e.key));
    for (const waiting of kept.edits.filter((w) => !done.has(w.key))) {
      const met = others.filter((e) => overlap(e.changes as Change[], waiting.changeSet.changes).length > 0);
      if (met.length > 0) this.conflict(waiting.changeSet, met, this.state.project);
      else this.edit(waiting.changeSet, waiting.key);
    }
    this.keep();
  }
  private keep(): void {
    const edits = this.queue.flatMap((job) =>
      job.way === 'edit' ? [{ key: job.key, changeSet: job.changeSet }] : [],
    );
    const { untaken } = this;
    keepWaiting(this.state.id, untaken?.base ?? this.version, [...(untaken?.edits ?? []), ...edits]);
  }
  /** What this window would have done, beside what the others have done. */
  private conflict(mine: ChangeSet, met: readonly LoggedEdit[], theirs: Project): void {
    const names = [...new Set(met.flatMap((e) => overlap(e.changes as Change[], mine.changes)))];
    let sides: Side[] = [];
    try {
      sides = sidesOf(theirs, applyChanges(theirs, mine.changes).project, names);
    } catch {
      // It can no longer be applied at all: the choice says so.
    }
    const told = met.map(({ who, label }) => ({ who, label }));
    this.set({ conflicts: [...this.state.conflicts, { mine, theirs: told, sides }] });
  }

  private async run(): Promise<void> {
    if (this.running || this.closed) return;
    this.running = true;
    while (this.queue.length > 0 && !this.closed) {
      this.set({
        saving: this.state.saving === 'offline' ? 'offline' : 'saving',
      });
      try {
        await this.send(this.queue[0]);
        this.queue.shift();
        this.keep();
      } catch (error) {
        if (error instanceof Unreachable) {
          this.set({ saving: 'offline' });
          this.running = false;
          this.retryLater();
          return;
        }
        const [refused] = this.queue.splice(0, 1);
        this.keep();
        await this.refused(error, refused);
      }
      this.set({ saving: this.queue.length > 0 ? 'saving' : 'saved' });
    }
    this.running = false;
    if (this.known > this.version && this.queue.length === 0) await this.catchUp();
  }

  private async send(job: Job): Promise<void> {
    const { id } = this.state;
    const base = this.version;
    if (job.way === 'edit') {
      const { changeSet, key } = job;
      const edited = await sendEdit(id, { ...changeSet, base, who: this.who(), key });
      if (edited.edits.length > 1) await this.reopen(this.queue.slice(1));
      else this.take(edited);
      return;
    }
    const edited = await job.ask({ base, who: this.who(), key: job.key });
    const [own] = edited.edits.slice(-1);
    for (const edit of edited.edits) {
      this.applyLocally(edit.changes as Change[], told(edit), edit === own ? null : edit.who);
    }
    this.take(edited);
  }
  private take(edited: Edited): void {
    this.version = edited.version;
    // With edits still waiting, undo and redo already speak of the last of them.
    if (this.queue.length <= 1) this.set({ undo: edited.undo, redo: edited.redo });
  }

  /** The server's state is what counts: it is opened anew, and edits that wait are applied to it again. */
  private async reopen(waiting: readonly Job[]): Promise<void> {
    const opened = await openProject(this.state.id);
    this.version = opened.version;
    const project = opened.document as unknown as Project;
    this.set({ project, index: indexProject(project), undo: opened.undo, redo: opened.redo });
    this.auditing = this.reaudit(project);
    for (const job of waiting) {
      if (job.way !== 'edit') continue;
      try {
        this.applyLocally(job.changeSet.changes, job.changeSet.label, null);
      } catch {
        // The server will refuse it too, and say why.
      }
    }
  }
  private async refused(error: unknown, job: Job): Promise<void> {
    const stale = error instanceof ApiProblem && error.is('stale-edit') && job.way === 'edit';
    const told = error instanceof ApiProblem && TOLD.some((type) => error.is(type));
    if (!stale) {
      this.notice(error instanceof Error ? error.message : String(error), told ? 'told' : 'refused');
    }
    try {
      await this.reopen(this.queue);
    } catch {
      // Opened again with the next edit that is sent.
    }
    if (stale) this.conflict(job.changeSet, error.body.theirs as LoggedEdit[], this.state.project);
  }

  private applyLocally(changes: Change[], label: string, who: string | null): void {
    const { project } = applyChanges(this.state.project, changes);
    this.set({
      project,
      index: reindexProject(this.state.index, project),
      lastEdit: { label, who, change: null },
    });
    this.auditing = this.auditing
      .then(async () => {
        const { result, change } = await this.auditor.apply(changes);
        if (this.closed) return;
        this.set({ audit: result, lastEdit: { label, who, change } });
        this.rehearseIfAsked();
      }, ignore)
      .catch((error: unknown) => this.auditFailed(error));
  }
  private async reaudit(project: Project): Promise<void> {
    try {
      this.today = today();
      const audit = await this.auditor.open(project, this.today);
      if (this.closed) return;
      this.set({ audit });
      this.rehearseIfAsked();
    } catch (error) {
      this.auditFailed(error);
    }
  }
  private auditFailed(error: unknown): void {
    this.notice(
      `The audit could not run: ${error instanceof Error ? error.message : String(error)}`,
      'refused',
    );
  }

  private set(part: Partial<SessionState>): void {
    this.state = { ...this.state, ...part, waiting: this.queue.length };
    for (const listener of this.listeners) listener();
  }
  private notice(text: string, kind: Notice['kind']): void {
    for (const listener of this.noticed) listener({ text, kind });
  }
}
/** Refusals that change nothing. */
const TOLD = [
  'nothing-to-undo',
  'nothing-to-redo',
  'depended-on',
  'not-in-force',
  'no-difference',
  'changed-meanwhile',
];
function told({ kind, label }: LoggedEdit): string {
  return `${kind === 'undo' ? 'undone: ' : kind === 'redo' ? 'redone: ' : ''}${label}`;
}
function ignore(): void {}
