import {
  asPart,
  auditDifference,
  auditSteps,
  buildGraph,
  compareFindings,
  compareProjects,
  fixAlike,
  figuresOf,
  fixesIn,
  expand,
  finish,
  graphCsv,
  graphMl,
  indexProject,
  isChannel,
  layRipple,
  IncrementalAudit,
  mutingAll,
  narrowed,
  reachedNames,
  readProjectText,
  rippleLines,
  rippleOf,
  selectedNow,
  crossingsOf,
  deliveryTable,
  withLaterNames,
  startNodes,
  walkSteps,
  type AuditResult,
  type Change,
  type CrossingGroup,
  type Crossings,
  type TriedFix,
  type Expansion,
  type DeliveryTable,
  type FixOfMany,
  type Figures,
  type Finding,
  type FindingChange,
  type PlayReport,
  type Project,
  type Rehearsal,
  type RehearsalsResult,
  type Step,
  type Walk,
  type WorkStep,
  type SelectedNow,
  withoutMarks,
  readLines,
  type NoteAsk,
  type ReadLines,
} from '@oquel/core';

import type {
  Audited,
  Comparison,
  Rehearsed,
  RippleAnswer,
  RippleQuestion,
  SelectionAsk,
  StateText,
} from './auditor-answers.js';
import { inSlices, type Report } from './in-slices.js';
import { observeFile } from './observing.js';
import { lookAtTable, type TableLook, type TableQuestion } from './table-incoming.js';
import { RehearsalRuns } from './rehearsal-runs.js';
import { readIncoming, readManifestInto, zipOf, type Incoming, type Unfit } from './incoming.js';

interface State {
  project: Project;
  findings: readonly Finding[];
}
/** Whether a change could give something another name. */
function mayRename(change: Change): boolean {
  return change.op === 'set' || (change.op === 'replace' && change.item.id !== change.id);
}

/** Holds the open project beside the interface, audits it after every edit, and answers what needs its graph. */
export class Auditor {
  private open_: IncrementalAudit | null = null;
  private today = '';

  private get live(): IncrementalAudit {
    if (!this.open_) throw new Error('the auditor has no project');
    return this.open_;
  }
  /**
   * Audits a project. The text of what the server has opened is taken as well: it is parsed beside the window, which is quicker
   * than to send a copy of the project. `today`: ISO date by which waivers are judged.
   * @throws ProjectTooLarge
   */
  async open(from: Project | string, today: string, report: Report | null = null): Promise<AuditResult> {
    const project = typeof from === 'string' ? (JSON.parse(from) as { document: Project }).document : from;
    const audit = await inSlices(IncrementalAudit.opening(project, today), report);
    this.today = today;
    this.open_ = audit;
    return audit.result;
  }
  apply(changes: Change[]): Audited {
    const { project, result: before } = this.live;
    const result = this.live.apply(changes);
    const { change } = this.live;
    const difference = auditDifference(before, result);
    if (change.added.length === 0 || change.gone.length === 0 || !changes.some(mayRename)) {
      return { difference, change };
    }
    return {
      difference,
      change: this.findingChange(project, before.findings, this.live.project, result.findings),
    };
  }
  /** What changes would do to the findings, without doing them. @throws EditRefused */
  preview(changes: Change[]): FindingChange {
    const { live } = this;
    const { project, result } = live;
    return live.trying(changes, (after) =>
      this.findingChange(project, result.findings, after.project, after.result.findings),
    );
  }
  /** A state of the project beside another one. @throws BrokenDocument, Cancelled */
  compare(from: StateText, to: StateText, report: Report | null = null): Promise<Comparison> {
    return inSlices(this.comparing(from, to), report);
  }
  private *comparing(from: StateText, to: StateText): Generator<WorkStep, Comparison> {
    const sides: State[] = [];
    for (const [i, side] of [from, to].entries()) {
      yield { doing: 'reading the documents', done: i, of: 5 };
      sides.push(this.stateOf(side));
    }
    const [a, b] = sides;
    yield { doing: 'comparing the bindings', done: 2, of: 5 };
    const difference = compareProjects(a.project, b.project);
    yield { doing: 'comparing the findings', done: 3, of: 5 };
    const findings = this.findingSteps(a.project, a.findings, b.project, b.findings);
    return { difference, findings: yield* asPart(findings, { done: 3, share: 2, of: 5 }) };
  }
  private findingChange(...sides: Parameters<Auditor['findingSteps']>): FindingChange {
    return finish(this.findingSteps(...sides));
  }
  /** What came and went; a finding whose words only have another name in them did neither. */
  private *findingSteps(
    before: Project,
    findings: readonly Finding[],
    after: Project,
    now: readonly Finding[],
  ): Generator<WorkStep, FindingChange> {
    const plain = compareFindings(findings, now);
    if (plain.added.length === 0 || plain.gone.length === 0) return plain;
    const renamed = withLaterNames(before, after);
    if (!renamed) return plain;
    const audit = yield* auditSteps(renamed, { today: this.today });
    return compareFindings(audit.findings, now);
  }
  /** A file that may come in. @throws Cancelled */
  incoming(bytes: Uint8Array, today: string, report: Report | null = null): Promise<Incoming | Unfit> {
    return inSlices(readIncoming(bytes, today), report);
  }
  /** A manifest of the game that may be merged into what is now. @throws Cancelled */
  manifest(bytes: Uint8Array, today: string, report: Report | null = null): Promise<Incoming | Unfit> {
    return inSlices(readManifestInto(this.live.project, bytes, today), report);
  }
  /** What came in beside what is now. */
  compareIncoming({ project, audit: its }: Pick<Incoming, 'project' | 'audit'>): Comparison {
    const { live } = this;
    return {
      difference: compareProjects(live.project, project),
      findings: this.findingChange(live.project, live.result.findings, project, its.findings),
    };
  }
  /** A merged manifest beside what is now, but for where things are declared. */
  compareManifest({ project, audit: its }: Pick<Incoming, 'project' | 'audit'>): Comparison {
    const { live } = this;
    return {
      difference: compareProjects(withoutMarks(live.project), withoutMarks(project)),
      findings: this.findingChange(live.project, live.result.findings, project, its.findings),
    };
  }
  table(ask: TableQuestion): TableLook | { fault: string } {
    return lookAtTable(this.live.inputs.index, ask);
  }
  lines(owner: string, text: string, ask: NoteAsk): ReadLines {
    return readLines(this.live.inputs.index, owner, text, ask);
  }
  zip(pictures: readonly (readonly [string, Uint8Array])[]): Uint8Array {
    return zipOf(this.live.project, pictures);
  }
  graph(as: 'graphml' | 'csv'): string {
    // In the order of the document, whatever was edited since it was opened.
    const g = buildGraph(this.expansion());
    return as === 'csv' ? graphCsv(g) : graphMl(g);
  }
  /** An expansion of its own, which later edits leave alone. */
  private expansion(): Expansion {
    return expand(indexProject(this.live.project));
  }
  private stateOf(side: StateText): State {
    if (side === 'now') return { project: this.live.project, findings: this.live.result.findings };
    return {
      project: readProjectText(side.document).project,
      findings: (JSON.parse(side.audit) as AuditResult).findings,
    };
  }
  /** What selections of an asset's bindings take now; null for one that names nothing. */
  selected(owner: string, asks: readonly SelectionAsk[]): (SelectedNow | null)[] {
    const { x } = this.live.inputs;
    const at = x.index.assetAt.get(owner);
    return asks.map(({ from, to }) => (at === undefined ? null : selectedNow(x, at, from, to)));
  }
  /** What follows from a start, or came before it, laid out; null if the start names nothing. */
  ripple({ ask, axis, room, filter, muted }: RippleQuestion): RippleAnswer | null {
    const begun = performance.now();
    const { inputs } = this.live;
    const kept =
      muted.length === 0
        ? null
        : this.live.trying(mutingAll(inputs.index, muted), (trial) => reachedNames(trial.inputs.g, ask));
    const whole = rippleOf(inputs.g, ask, inputs.facts, kept);
    if (!whole) return null;
    const ripple = narrowed(whole, filter);
    const answer = { ripple, layout: layRipple(ripple, axis, room), lines: rippleLines(ripple) };
    return { ...answer, limit: inputs.limits.maxChain, milliseconds: performance.now() - begun };
  }
  private readonly rehearsals = new RehearsalRuns();
  /** Ends whatever rehearsal is running: its answer is null. */
  stopRehearsing(): void {
    this.rehearsals.stop();
  }
  /** Runs one rehearsal to be looked at; null if it was stopped, or overtaken by another run. */
  rehearse(rehearsal: Rehearsal): Promise<Rehearsed | null> {
    return this.rehearsals.look(this.expansion(), rehearsal);
  }
  /** Runs all rehearsals of the project for their verdicts and coverage; null if stopped or overtaken. */
  rehearseAll(): Promise<RehearsalsResult | null> {
    return this.rehearsals.slices(this.expansion(), this.live.project.rehearsals ?? [], null);
  }
  /** The steps that follow from a walk over a scene. */
  walk(walk: Walk): Step[] {
    return walkSteps(this.live.inputs.index, walk);
  }
  /** Judges what a game has written by the project as it is. @throws Cancelled */
  observe(file: File, loadSet: string | undefined, report: Report): Promise<PlayReport> {
    return observeFile(this.live.inputs.index, file, loadSet, report);
  }
  /** Who may raise an event of an instance and where it acts; null without peers, or if there is no such event. */
  delivery(at: string, event: string): DeliveryTable | null {
    const { g, x, peerRoles } = this.live.inputs;
    const [node] = startNodes(g, { at, name: event }, 'forward');
    if (node === undefined || isChannel(g, node)) return null;
    const instance = g.instanceOf[node];
    const number = node - x.nodeBase[instance];
    return number < x.assetOf(instance).events.length ? deliveryTable(g, peerRoles, instance, number) : null;
  }
  /** Who talks to whom, gathered by groups. */
  crossings(by: CrossingGroup): Crossings {
    return crossingsOf(this.live.inputs.g, by);
  }
  /** How chains and fan-outs are distributed. */
  figures(): Figures {
    return figuresOf(this.live.inputs);
  }
  /** One edit that fixes all findings like one of them; null if that is gone meanwhile. */
  fixAlike(fingerprint: string): FixOfMany | null {
    const finding = this.live.result.findings.find((f) => f.fingerprint === fingerprint);
    return finding ? fixAlike(this.live.project, finding, this.today) : null;
  }
  /** Fixes for one of the findings as they are now, each tried; none if it is gone meanwhile. */
  fixes(fingerprint: string): TriedFix[] {
    const finding = this.live.result.findings.find((f) => f.fingerprint === fingerprint);
    return finding ? fixesIn(this.live, finding) : [];
  }
}
