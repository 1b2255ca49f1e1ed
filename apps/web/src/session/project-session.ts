import {
  applyChanges,
  indexProject,
  overlap,
  reindexProject,
  withDifference,
  type Change,
  type ChangeSet,
  type Project,
  type Rehearsal,
  type WorkStep,
} from '@oquel/core';
import type { OpenedProject, PresentWindow } from '../api/client.js';
import type { Rehearsed } from '../workers/auditor-answers.js';
import { refusalIn, type Access } from './access.js';
import { beginAudit, type BegunAudit } from './begun-audit.js';
import { AuditorQuestions, today, type AuditorPort } from './auditor-questions.js';
import { EditQueue } from './queue/edit-queue.js';
import type { QueueListener } from './queue/ports.js';
import { changesOf, labelOf, type Entry } from './queue/entry.js';
import { httpServer } from './queue/http-server.js';
import type { Clock, EntryStore } from './queue/ports.js';
import { Rehearsing } from './rehearsing.js';
import { Watched } from './watched.js';
import type { Aside, Conflict, Notice, SessionState, Played } from './session-state.js';

/** What a window brings along. */
export interface SessionWindow {
  /** The audit of what was opened, where it has begun already. */
  audit?: BegunAudit;
  /** Names this window. */
  client: string;
  /** Names this browser, whose edits are one's own. */
  author: string;
  who: () => string;
  store: EntryStore;
  /** What the person may do here; null: everything. */
  access: Access | null;
}
/** So many notices are kept until somebody listens. */
const EARLY = 3;
const CLOCK: Clock = {
  later: (ms, run) => {
    const timer = setTimeout(run, ms);
    return () => clearTimeout(timer);
  },
};

/**
 * The open project as views see it: what is on the screen (the edit queue decides that), its audit after every change,
 * its rehearsals, who else is there.
 */
export class ProjectSession extends AuditorQuestions implements QueueListener {
  private state: SessionState;
  private readonly queue: EditQueue;
  private readonly listeners = new Set<() => void>();
  private readonly noticed = new Set<(notice: Notice) => void>();
  private readonly early: Notice[] = [];
  private readonly rehearsing: Rehearsing;
  private closed = false;
  protected auditing: Promise<void>;
  /** How far an audit from the beginning is; null if none runs. */
  readonly auditStep: Watched<WorkStep | null>;
  /** The date of the last audit. */
  private today = '';
  /** Both sides of each choice, by group, as they are at a version. */
  private sides = new Map<string, { version: number; conflict: Conflict }>();

  constructor(
    opened: OpenedProject,
    auditor: AuditorPort,
    { audit, client, author, who, store, access }: SessionWindow,
  ) {
    super(auditor);
    const { id, document: project } = opened;
    this.state = {
      id,
      project,
      access,
      index: indexProject(project),
      audit: null,
      rehearsed: null,
      lastEdit: null,
      undo: opened.undo[0]?.label ?? null,
      redo: opened.redo[0]?.label ?? null,
      saving: 'saved',
      trouble: null,
      waiting: 0,
      unkept: false,
      connected: true,
      present: [],
      buildsChanged: 0,
      playsChanged: 0,
      played: null,
      conflicts: [],
      aside: [],
      found: [],
    };
    this.rehearsing = new Rehearsing(
      auditor,
      () => this.auditing,
      (rehearsed) => this.set({ rehearsed }),
    );
    const newKey = (): string => crypto.randomUUID();
    const options = { project: id, client, author, who, newKey, now: Date.now };
    this.queue = new EditQueue(opened, httpServer(id, author), store, CLOCK, options, this);
    this.auditStep = audit?.step ?? new Watched<WorkStep | null>(null);
    this.auditing = this.finishAudit(audit ?? this.beginAudit(project));
  }

  /** The version that the server is known to have. */
  get storedVersion(): number {
    return this.queue.version;
  }

  getState = (): SessionState => this.state;
  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  /** What was noticed while nobody listened is said to the first who does. */
  onNotice = (listener: (notice: Notice) => void): (() => void) => {
    this.noticed.add(listener);
    this.early.splice(0).forEach(listener);
    return () => this.noticed.delete(listener);
  };
  close(): void {
    this.closed = true;
    this.queue.close();
    this.rehearsing.close();
  }

  /** Applies an edit here at once and sends it. Returns false, with a notice, if it cannot be applied. */
  edit(changeSet: ChangeSet): boolean {
    if (!this.may(changeSet.changes)) return false;
    try {
      return this.queue.edit({ ...changeSet, label: shortened(changeSet.label) });
    } catch (error) {
      this.notice(error instanceof Error ? error.message : String(error), 'refused');
      return false;
    }
  }
  /** Undoes one's own last edit, or redoes the last one that was undone. */
  step(way: 'undo' | 'redo'): void {
    if (this.may()) this.queue.step(way);
  }
  /** Undoes the edit that brought about a version, if nothing later touched the same. */
  takeBack(version: number, label: string): void {
    if (this.may()) this.queue.ask({ way: 'take-back', version, label: shortened(`undid: ${label}`) });
  }
  /** Makes the project as it was in a build. */
  restore(build: string, name: string): void {
    if (this.may()) this.queue.ask({ way: 'restore', build, label: shortened(`restored build ${name}`) });
  }
  /** Makes the project like a document, which was compared with it when it was at that version. */
  replaceBy(text: string, label: string, compared: number): void {
    if (this.may()) this.queue.ask({ way: 'replace', text, label: shortened(label) }, compared);
  }
  /** Ends the oldest conflict: by doing this window's edit over what the others did, or by leaving theirs. */
  settle(choice: 'mine' | 'theirs'): void {
    this.queue.settle(choice);
  }
  /** Tries edits again that were set aside. */
  retryAside(group: string): void {
    this.queue.retry(group);
  }
  dropAside(group: string): void {
    this.queue.drop(group);
  }
  /** Sends or drops what windows that are gone have left. */
  takeFound(choice: 'send' | 'drop'): void {
    this.queue.takeFound(choice);
  }
  /** Takes up what was kept in the browser. */
  takeUp(isLive: (client: string) => boolean): Promise<void> {
    return this.queue.takeUp(isLive);
  }

  rehearse(rehearsal: Rehearsal): Promise<Rehearsed | null> {
    return this.rehearsing.one(rehearsal);
  }
  /** Shows on the wiring what a play has used, or again what rehearsals use. */
  showPlayed(played: Played | null): void {
    this.set({ played });
  }
  stopRehearsing(): void {
    this.rehearsing.stop();
  }
  /** Runs all rehearsals; from then on they run again after every edit. */
  rehearseAll(): Promise<void> {
    return this.rehearsing.all();
  }
  private rehearseIfAsked(): void {
    const { rehearsed, project } = this.state;
    if (rehearsed || (project.policy?.rehearsals === true && (project.rehearsals ?? []).length > 0)) {
      this.rehearseAll().catch((error: unknown) => this.auditFailed(error));
    }
  }

  /** A new day: waivers end at midnight. */
  newDay(): void {
    if (this.today !== '' && this.today !== today()) this.auditAnew(this.state.project);
  }

  /** Whether the person may make some changes; else it is said who may. */
  private may(changes: readonly Change[] = []): boolean {
    const refusal = refusalIn(this.state.access, this.state.project, changes);
    if (refusal !== null) this.notice(refusal, 'refused');
    return refusal === null;
  }

  // --- What others do

  heardAccess(access: Access | null): void {
    this.set({ access });
  }

  heardVersion(version: number): void {
    this.queue.heard(version);
  }
  heardPresent(present: readonly PresentWindow[]): void {
    this.set({ present });
  }
  heardBuilds(): void {
    this.set({ buildsChanged: this.state.buildsChanged + 1 });
  }
  heardPlays(): void {
    this.set({ playsChanged: this.state.playsChanged + 1 });
  }
  heardConnected(connected: boolean): void {
    if (connected !== this.state.connected) this.set({ connected });
    if (connected) this.queue.reachable();
  }

  // --- What the queue tells

  shown(
    project: Project,
    changes: readonly Change[] | null,
    edit: { label: string; who: string | null } | null,
  ): void {
    if (!changes) {
      this.set({ project, index: indexProject(project) });
      this.auditAnew(project);
      return;
    }
    const lastEdit = edit ? { ...edit, change: null } : this.state.lastEdit;
    this.set({ project, index: reindexProject(this.state.index, project), lastEdit });
    this.auditing = this.auditing
      .then(async () => {
        const { difference, change } = await this.auditor.apply([...changes]);
        if (this.closed || !this.state.audit) return;
        this.set({
          audit: withDifference(this.state.audit, difference),
          ...(edit ? { lastEdit: { ...edit, change } } : {}),
        });
        this.rehearseIfAsked();
      }, ignore)
      .catch((error: unknown) => this.auditFailed(error));
  }
  changed(): void {
    const { waiting, trouble, ahead, unkept } = this.queue;
    this.set({
      waiting,
      trouble,
      unkept,
      saving: trouble !== null ? 'offline' : waiting > 0 ? 'saving' : 'saved',
      undo: ahead.undo[0]?.label ?? null,
      redo: ahead.redo[0]?.label ?? null,
      conflicts: this.conflicts(),
      aside: this.queue.aside.map(asideOf),
      found: this.queue.found.map(labelOf),
    });
  }
  notice(text: string, kind: Notice['kind']): void {
    const said: Notice = { text, kind };
    for (const listener of this.noticed) listener(said);
    if (this.noticed.size === 0 && this.early.push(said) > EARLY) this.early.shift();
  }

  private conflicts(): Conflict[] {
    const { met, project, version } = this.queue;
    const next: typeof this.sides = new Map();
    for (const group of met) {
      const { group: key } = group[0].parked!;
      const known = this.sides.get(key);
      next.set(key, known?.version === version ? known : { version, conflict: conflictOf(group, project) });
    }
    this.sides = next;
    return [...next.values()].map((side) => side.conflict);
  }
  /** One after the other, so that the last is what holds. */
  private auditAnew(project: Project): void {
    this.auditing = this.auditing.then(() => this.finishAudit(this.beginAudit(project)), ignore);
  }
  private beginAudit(project: Project): BegunAudit {
    return beginAudit(this.auditor, project, this.auditStep, () => !this.closed);
  }
  private async finishAudit({ result, today }: BegunAudit): Promise<void> {
    try {
      this.today = today;
      const audit = await result;
      if (this.closed) return;
      this.auditStep.set(null);
      this.set({ audit });
      this.rehearseIfAsked();
    } catch (error) {
      this.auditFailed(error);
    }
  }
  private auditFailed(error: unknown): void {
    if (this.closed) return;
    this.notice(
      `The audit could not run: ${error instanceof Error ? error.message : String(error)}`,
      'refused',
    );
  }
  private set(part: Partial<SessionState>): void {
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }
}

/** What this window would have done, beside what the others have done. */
function conflictOf(group: readonly Entry[], now: Project): Conflict {
  const { theirs } = group[0].parked!;
  const mine = group.flatMap((e) => [...changesOf(e)]);
  const names = [...new Set(theirs.flatMap((e) => overlap(e.changes, mine)))];
  const label = group.map(labelOf).join('; ');
  try {
    return { label, theirs, theirProject: now, ownProject: applyChanges(now, mine).project, names };
  } catch {
    // It can no longer be applied at all: the choice says so.
    return { label, theirs, theirProject: now, ownProject: null, names };
  }
}
function asideOf(group: Entry[]): Aside {
  const { group: key, words } = group[0].parked!;
  return { group: key, labels: group.map(labelOf), words };
}
/** A sentence for the history; texts that people have typed may be longer than there is room. */
function shortened(label: string): string {
  return label.length <= 500 ? label : `${label.slice(0, 499)}…`;
}
function ignore(): void {}
