import {
  applyChanges,
  indexProject,
  reindexProject,
  type AuditResult,
  type Change,
  type ChangeSet,
  type CrossingGroup,
  type Crossings,
  type Cure,
  type CureOfMany,
  type DeliveryTable,
  type Figures,
  type FindingChange,
  type Project,
  type ProjectIndex,
  type Rehearsal,
  type RehearsalsResult,
  type SelectedNow,
  type Step,
  type Walk,
} from '@oquel/core';
import {
  ApiProblem,
  editsAfter,
  openProject,
  sendEdit,
  sendStep,
  sendTakeBack,
  Unreachable,
  type Edited,
} from '../api/client.js';
import type { Auditor, Rehearsed, RippleAnswer, RippleQuestion, SelectionAsk } from '../workers/auditor.js';

type Methods = {
  [K in keyof Auditor as Auditor[K] extends (...args: never[]) => unknown ? K : never]: Auditor[K];
};
/** What the audit worker offers, as the session sees it: the auditor's own methods, answered later. */
export type AuditorPort = {
  [K in keyof Methods]: (...args: Parameters<Methods[K]>) => Promise<Awaited<ReturnType<Methods[K]>>>;
};

export interface LastEdit {
  label: string;
  /** Null while the audit runs. */
  change: FindingChange | null;
}
export interface SessionState {
  readonly id: string;
  readonly project: Project;
  readonly index: ProjectIndex;
  readonly audit: AuditResult | null;
  /** All rehearsals as they ran last; null until they are asked for, by somebody or by the policy. */
  readonly rehearsed: RehearsalsResult | null;
  readonly lastEdit: LastEdit | null;
  readonly undo: string | null;
  readonly redo: string | null;
  readonly saving: 'saved' | 'saving' | 'offline';
  /** Edits that the server does not have yet. */
  readonly waiting: number;
}
export interface Notice {
  text: string;
  kind: 'told' | 'refused';
}

type Job =
  | { way: 'edit'; key: string; changeSet: ChangeSet }
  | { way: 'undo' | 'redo' }
  | { way: 'take-back'; version: number };

const RETRY_MS = 2000;

/**
 * The open project: applies edits at once, sends them to the server one after the other, and has the worker audit each.
 * What the server cannot take now waits and is sent again; what it refuses is taken back and told.
 */
export class ProjectSession {
  private state: SessionState;
  private version: number;
  private readonly listeners = new Set<() => void>();
  private readonly noticed = new Set<(notice: Notice) => void>();
  private readonly queue: Job[] = [];
  private running = false;
  private closed = false;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private auditing: Promise<void>;
  /** The date of the last audit. */
  private today = '';

  constructor(
    opened: { id: string; version: number; document: object; undo: string | null; redo: string | null },
    private readonly auditor: AuditorPort,
    private readonly who: () => string,
  ) {
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
    };
    this.auditing = this.reaudit(project);
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
    if (this.timer) clearTimeout(this.timer);
  }

  /** Applies an edit here at once and sends it. Returns false, with a notice, if it cannot be applied. */
  edit(changeSet: ChangeSet): boolean {
    try {
      this.applyLocally(changeSet.changes, changeSet.label);
    } catch (error) {
      this.notice(error instanceof Error ? error.message : String(error), 'refused');
      return false;
    }
    this.queue.push({ way: 'edit', key: crypto.randomUUID(), changeSet });
    this.set({ undo: changeSet.label, redo: null });
    void this.run();
    return true;
  }
  step(way: 'undo' | 'redo'): void {
    this.queue.push({ way });
    void this.run();
  }
  /** Takes back the edit that brought about a version, if nothing later touched the same. */
  takeBack(version: number): void {
    this.queue.push({ way: 'take-back', version });
    void this.run();
  }
  /** Cures for a finding, once the audit of the last edit is there. */
  async cures(fingerprint: string): Promise<Cure[]> {
    await this.auditing;
    return this.auditor.cures(fingerprint);
  }
  /** What changes would do to the findings, once the audit of the last edit is there. @throws EditRefused */
  async preview(changes: Change[]): Promise<FindingChange> {
    await this.auditing;
    return this.auditor.preview(changes);
  }
  /** What selections take, once the last edit is known to the worker. */
  async selected(owner: string, asks: readonly SelectionAsk[]): Promise<(SelectedNow | null)[]> {
    await this.auditing;
    return this.auditor.selected(owner, asks);
  }
  /** A ripple, once the last edit is known to the worker. */
  async ripple(question: RippleQuestion): Promise<RippleAnswer | null> {
    await this.auditing;
    return this.auditor.ripple(question);
  }
  /** Runs one rehearsal, once the last edit is known to the worker; null if it was stopped. */
  async rehearse(rehearsal: Rehearsal): Promise<Rehearsed | null> {
    const mine = ++this.asked;
    await this.auditing;
    // It was stopped, or another one asked for, before it began.
    if (mine !== this.asked) return null;
    this.keptOff = true;
    try {
      return await this.auditor.rehearse(rehearsal);
    } finally {
      this.keptOff = false;
      if (this.allDue) void this.rehearseAll();
    }
  }
  stopRehearsing(): void {
    this.asked++;
    this.allDue = false;
    void this.auditor.stopRehearsing();
  }
  /** Runs all rehearsals; from then on they run again after every edit. */
  async rehearseAll(): Promise<void> {
    this.allDue = true;
    await this.auditing;
    // One that is being looked at goes first.
    if (this.keptOff || this.closed) return;
    const rehearsed = await this.auditor.rehearseAll();
    if (!rehearsed || this.closed) return;
    this.allDue = false;
    this.set({ rehearsed });
  }
  /** Counts single rehearsals that were asked for, and stops. */
  private asked = 0;
  /** A single rehearsal is running. */
  private keptOff = false;
  /** All of them are to be run as soon as nothing else is. */
  private allDue = false;
  private rehearseIfAsked(): void {
    const { rehearsed, project } = this.state;
    if (rehearsed || (project.policy?.rehearsals === true && (project.rehearsals ?? []).length > 0)) {
      this.rehearseAll().catch((error: unknown) => this.auditFailed(error));
    }
  }
  async walk(walk: Walk): Promise<Step[]> {
    await this.auditing;
    return this.auditor.walk(walk);
  }
  async delivery(at: string, event: string): Promise<DeliveryTable | null> {
    await this.auditing;
    return this.auditor.delivery(at, event);
  }
  async crossings(by: CrossingGroup): Promise<Crossings> {
    await this.auditing;
    return this.auditor.crossings(by);
  }
  async figures(): Promise<Figures> {
    await this.auditing;
    return this.auditor.figures();
  }
  async cureAlike(fingerprint: string): Promise<CureOfMany | null> {
    await this.auditing;
    return this.auditor.cureAlike(fingerprint);
  }
  /** Takes in what others have done meanwhile, and a new day: waivers end at midnight. */
  async catchUp(): Promise<void> {
    if (this.today !== '' && this.today !== today()) this.auditing = this.reaudit(this.state.project);
    if (this.queue.length > 0 || this.running) return;
    try {
      const edits = await editsAfter(this.state.id, this.version);
      if (this.queue.length === 0 && edits.length > 0) await this.reopen([]);
    } catch {
      // The next edit will say so if the server stays away.
    }
  }

  private async run(): Promise<void> {
    if (this.running || this.closed) return;
    this.running = true;
    while (this.queue.length > 0 && !this.closed) {
      this.set({
        saving: this.state.saving === 'offline' ? 'offline' : 'saving',
        waiting: this.queue.length,
      });
      try {
        await this.send(this.queue[0]);
        this.queue.shift();
      } catch (error) {
        if (error instanceof Unreachable) {
          this.set({ saving: 'offline' });
          this.timer = setTimeout(() => void this.run(), RETRY_MS);
          this.running = false;
          return;
        }
        this.queue.shift();
        await this.refused(error);
      }
      this.set({ saving: this.queue.length > 0 ? 'saving' : 'saved', waiting: this.queue.length });
    }
    this.running = false;
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
    const edited =
      job.way === 'take-back'
        ? await sendTakeBack(id, { base, who: this.who(), version: job.version })
        : await sendStep(id, job.way, { base, who: this.who() });
    const [own] = edited.edits.slice(-1);
    for (const edit of edited.edits) {
      const verb = edit.kind === 'undo' ? 'undone: ' : edit.kind === 'redo' ? 'redone: ' : '';
      this.applyLocally(
        edit.changes as Change[],
        `${edit === own ? '' : `${edit.who}, `}${verb}${edit.label}`,
      );
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
        this.applyLocally(job.changeSet.changes, job.changeSet.label);
      } catch {
        // The server will refuse it too, and say why.
      }
    }
  }
  private async refused(error: unknown): Promise<void> {
    const text = error instanceof ApiProblem ? error.message : String(error);
    const nothing =
      error instanceof ApiProblem &&
      ['nothing-to-undo', 'nothing-to-redo', 'depended-on', 'not-in-force'].some((type) => error.is(type));
    this.notice(text, nothing ? 'told' : 'refused');
    try {
      await this.reopen(this.queue);
    } catch {
      // Opened again with the next edit that is sent.
    }
  }

  private applyLocally(changes: Change[], label: string): void {
    const { project } = applyChanges(this.state.project, changes);
    this.set({
      project,
      index: reindexProject(this.state.index, project),
      lastEdit: { label, change: null },
    });
    this.auditing = this.auditing
      .then(async () => {
        const { result, change } = await this.auditor.apply(changes);
        if (this.closed) return;
        this.set({ audit: result, lastEdit: { label, change } });
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
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }
  private notice(text: string, kind: Notice['kind']): void {
    for (const listener of this.noticed) listener({ text, kind });
  }
}
function ignore(): void {}
/** Waivers are judged by the day in UTC, as the command line does. */
function today(): string {
  return new Date().toISOString().slice(0, 10);
}
