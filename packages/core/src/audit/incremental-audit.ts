import { applyChanges } from '../edit/apply.js';
import type { Change } from '../edit/change.js';
import { expand } from '../expand/expand.js';
import { buildGraph } from '../graph/build.js';
import { GraphEditor } from '../graph/edit-graph.js';
import { indexProject } from '../project/index-project.js';
import type { Project } from '../project/types.js';
import { copyOf, distinct } from '../project/distinct.js';
import { alignLists } from '../util/align-lists.js';
import { finish, type WorkStep } from '../util/steps.js';
import { AuditState } from './audit-state.js';
import type { FindingChange } from './compare.js';
import type { AuditResult } from './finding.js';
import type { AnalysisInputs } from './inputs.js';
import { policyChanges, thresholds } from './policy.js';
import { withRehearsals } from './rehearsed.js';
import type { Rule } from './rule.js';
import { RULES } from './rules/registry.js';
import { EditFollower } from './edit-follower.js';
import { touchedBy, type Touch, type Touched } from './touched.js';
import type { TouchedUnits } from './judge.js';
import { joinUnits, touchedUnits } from './touched-units.js';

/**
 * An open project with its audit, which is kept up with edits: the result is that of an audit from scratch. `touched.ts` says
 * what each part of a document touches. After an edit that leaves the same things standing and the same names there, graph and
 * facts are edited in place and only the units are judged again that it touches. After any other edit all is worked out anew.
 */
export class IncrementalAudit {
  private known: { state: AuditState; editor: GraphEditor } | null = null;
  /** After an error: what is known may be half of one state and half of the other. */
  private isHalf = false;
  result!: AuditResult;
  /** What the last edit did to the findings. */
  change: FindingChange = { added: [], gone: [] };

  private constructor(
    private current: Project,
    private readonly today: string,
    private readonly rules: readonly Rule[],
  ) {}

  /** @throws ProjectTooLarge */
  static open(project: Project, today: string, rules: readonly Rule[] = RULES): IncrementalAudit {
    return finish(IncrementalAudit.opening(project, today, rules));
  }
  /** {@link open} step by step, for who shows how far it is or may cancel it. */
  static *opening(
    project: Project,
    today: string,
    rules: readonly Rule[] = RULES,
  ): Generator<WorkStep, IncrementalAudit> {
    const audit = new IncrementalAudit(distinct(project), today, rules);
    yield* audit.anew();
    return audit;
  }
  get project(): Project {
    return this.current;
  }
  /** What is known of the project as it is, for questions besides the audit. The next edit changes it. */
  get inputs(): AnalysisInputs {
    return this.whole.state.inputs;
  }
  private get whole(): { state: AuditState; editor: GraphEditor } {
    if (this.isHalf) finish(this.anew());
    return this.known!;
  }
  /** The result with the rehearsals that the policy counts, as an audit from scratch has it. Cost: their runs. */
  get withRehearsals(): AuditResult {
    return withRehearsals(this.result, expand(indexProject(this.current)), undefined);
  }

  /** Applies changes and audits again. On an error the project stays as it was. @throws EditRefused, ProjectTooLarge */
  apply(changes: readonly Change[]): AuditResult {
    // What comes in may stand elsewhere too.
    return this.edit(changes.map(copyOf)).result;
  }
  /**
   * Looks at what changes would do, without doing them: they are applied, and taken back after the look, which keeps nothing
   * of {@link inputs}. Cost: two edits. @throws EditRefused, ProjectTooLarge
   */
  trying<T>(changes: readonly Change[], look: (audit: IncrementalAudit) => T): T {
    const { current, change } = this;
    const { inverse } = this.edit(changes.map(copyOf));
    try {
      return look(this);
    } finally {
      this.edit(inverse);
      this.current = current;
      this.change = change;
    }
  }

  private edit(changes: readonly Change[]): { result: AuditResult; inverse: Change[] } {
    const { project, inverse } = applyChanges(this.current, changes);
    const before = this.current;
    try {
      this.current = project;
      this.follow(before);
      return { result: this.result, inverse };
    } catch (error) {
      this.current = before;
      throw error;
    }
  }

  /** Works everything out from the project as it is. */
  private *anew(): Generator<WorkStep, void> {
    const previous = this.known ? this.result.findings : [];
    yield AuditState.step('expanding placements', 0);
    const x = expand(indexProject(this.current), 'for edits');
    yield AuditState.step('building the graph', 1);
    const g = buildGraph(x);
    const state = yield* AuditState.judging(g, this.today, this.rules, previous);
    this.known = { state, editor: new GraphEditor(state.inputs.g, state.inputs.incoming) };
    this.isHalf = false;
    this.result = state.result();
    this.change = state.change;
    yield AuditState.step('', AuditState.STEPS);
  }
  private follow(before: Project): void {
    const touched = touchedBy(before, this.current);
    if (this.isHalf || touched.has('all') || !this.followInPlace(before, touched)) {
      finish(this.anew());
      return;
    }
    const { state } = this.known!;
    this.result = state.result();
    this.change = state.change;
  }

  /** False where that cannot be; all is to be worked out anew then. */
  private followInPlace(before: Project, touched: Touched): boolean {
    const { judge } = this.known!.state;
    this.isHalf = true;
    // What goes leaves first, so that what comes can have its numbers.
    const between = withoutGone(before, this.current, touched);
    const first = between ? this.step(before, between, touchedBy(before, between)) : {};
    const rest = between ? touchedBy(between, this.current) : touched;
    const last = first && this.step(between ?? before, this.current, rest);
    if (!first || !last) return false;
    judge.again(joinUnits(first, last));
    if (touched.has('policy')) judge.afterPolicy(policyChanges(before.policy, this.current.policy));
    this.isHalf = false;
    return true;
  }
  /** Takes graph and facts from one state to the next; the units that are to be judged then. Null where that cannot be. */
  private step(before: Project, after: Project, touched: Touched): TouchedUnits | null {
    const { state, editor } = this.known!;
    const { inputs, judge } = state;
    const follower = new EditFollower(inputs, touched, before, after);
    let units: TouchedUnits = {};
    const delta = follower.edit(editor, (first) => (units = first));
    if (!delta) return null;
    if (touched.has('policy')) {
      inputs.limits = thresholds(after.policy);
      inputs.facts.limitReach(inputs.limits.maxReach);
    }
    if (touched.has('things')) inputs.replaced();
    if (STATED.some((touch) => touched.has(touch))) {
      inputs.restated();
      judge.redeclared(assetsOf(touched));
    }
    const scope = follower.settle(editor, delta);
    const changes = inputs.facts.follow(delta, editor, follower.sleepers);
    units = joinUnits(units, touchedUnits(inputs, editor, delta, changes, scope));
    editor.retire(delta);
    return units;
  }
}

/** The state between, in which things are gone and none have come; null where only one of both happens. */
function withoutGone(before: Project, after: Project, touched: Touched): Project | null {
  let isNeeded = false;
  const assets = [...before.assets];
  for (const { asset: at } of touched.get('things') ?? []) {
    const { placements = [], ...asset } = before.assets[at];
    const { gone, fresh } = alignLists(placements, after.assets[at].placements ?? []);
    if (gone.length === 0 || fresh.length === 0) continue;
    isNeeded = true;
    const isGone = new Set(gone);
    assets[at] = { ...asset, placements: placements.filter((_, slot) => !isGone.has(slot)) };
  }
  return isNeeded ? { ...before, assets } : null;
}

/** What placements and declarations say while the same things stand and the same names are there. */
const STATED: readonly Touch[] = [
  'nodes',
  'properties',
  'plan',
  'values',
  'sleep',
  'mutes',
  'roles',
  'expected listeners',
  'expected senders',
  'delivery',
  'payload',
  'params',
  'presence',
];
function assetsOf(touched: Touched): Set<number> {
  return new Set(STATED.flatMap((touch) => touched.get(touch) ?? []).map((place) => place.asset));
}
