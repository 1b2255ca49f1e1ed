import { proxy } from 'comlink';
import type {
  Change,
  CrossingGroup,
  Crossings,
  TriedFix,
  FixOfMany,
  DeliveryTable,
  Figures,
  FindingChange,
  NoteAsk,
  PlayReport,
  ReadLines,
  SelectedNow,
  Step,
  Walk,
} from '@oquel/core';
import type { Auditor } from '../workers/auditor.js';
import type {
  Comparison,
  RippleAnswer,
  RippleQuestion,
  SelectionAsk,
  StateText,
} from '../workers/auditor-answers.js';
import type { Incoming, Unfit } from '../workers/incoming.js';
import type { Report } from '../workers/in-slices.js';
import type { TableQuestion } from '../workers/table-incoming.js';
import { isoToday } from '../format.js';

type Methods = {
  [K in keyof Auditor as Auditor[K] extends (...args: never[]) => unknown ? K : never]: Auditor[K];
};
/** What the audit worker offers, as the session sees it: the auditor's own methods, answered later. */
export type AuditorPort = {
  [K in keyof Methods]: (...args: Parameters<Methods[K]>) => Promise<Awaited<ReturnType<Methods[K]>>>;
};

/** What views ask of the audit worker: each is answered of the project as the last edit left it. */
export abstract class AuditorQuestions {
  /** Done when the worker knows the last edit. */
  protected abstract auditing: Promise<void>;

  constructor(protected readonly auditor: AuditorPort) {}

  /** Fixes for a finding, once the audit of the last edit is there. */
  async fixes(fingerprint: string): Promise<TriedFix[]> {
    await this.auditing;
    return this.auditor.fixes(fingerprint);
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
  async walk(walk: Walk): Promise<Step[]> {
    await this.auditing;
    return this.auditor.walk(walk);
  }
  async observe(file: File, loadSet: string | undefined, report: Report): Promise<PlayReport> {
    await this.auditing;
    return this.auditor.observe(file, loadSet, proxy(report));
  }
  async delivery(at: string, event: string): Promise<DeliveryTable | null> {
    await this.auditing;
    return this.auditor.delivery(at, event);
  }
  async crossings(by: CrossingGroup): Promise<Crossings> {
    await this.auditing;
    return this.auditor.crossings(by);
  }
  async compare(from: StateText, to: StateText, report: Report | null = null): Promise<Comparison> {
    await this.auditing;
    return this.auditor.compare(from, to, report && proxy(report));
  }
  /** What a manifest of the game would make of what is now. */
  async manifest(bytes: Uint8Array, today: string, report: Report): Promise<Incoming | Unfit> {
    await this.auditing;
    return this.auditor.manifest(bytes, today, proxy(report));
  }
  async compareManifest(incoming: Pick<Incoming, 'project' | 'audit'>): Promise<Comparison> {
    await this.auditing;
    return this.auditor.compareManifest(incoming);
  }
  /** What came in from a file beside what is now. */
  async compareIncoming(incoming: Pick<Incoming, 'project' | 'audit'>): Promise<Comparison> {
    await this.auditing;
    return this.auditor.compareIncoming(incoming);
  }
  async table(ask: TableQuestion): ReturnType<AuditorPort['table']> {
    await this.auditing;
    return this.auditor.table(ask);
  }
  async lines(owner: string, text: string, ask: NoteAsk): Promise<ReadLines> {
    await this.auditing;
    return this.auditor.lines(owner, text, ask);
  }
  async zip(pictures: readonly (readonly [string, Uint8Array])[] = []): Promise<Uint8Array> {
    await this.auditing;
    return this.auditor.zip(pictures);
  }
  async graph(as: 'graphml' | 'csv'): Promise<string> {
    await this.auditing;
    return this.auditor.graph(as);
  }
  async figures(): Promise<Figures> {
    await this.auditing;
    return this.auditor.figures();
  }
  async fixAlike(fingerprint: string): Promise<FixOfMany | null> {
    await this.auditing;
    return this.auditor.fixAlike(fingerprint);
  }
}

/** Waivers are judged by the day in UTC, as the command line does. */
export function today(): string {
  return isoToday();
}
