import { applyChanges } from '../edit/apply.js';
import type { Change } from '../edit/change.js';
import { expand } from '../expand/expand.js';
import { buildGraph } from '../graph/build.js';
import { patchGraph, type GraphDelta } from '../graph/patch.js';
import { indexProject, reindexProject, type ProjectIndex } from '../project/index-project.js';
import type { Project } from '../project/types.js';
import { copyOf, distinct } from '../project/distinct.js';
import { finish, type WorkStep } from '../util/steps.js';
import { contextSteps, graphSteps, type RunRule } from './audit.js';
import { AuditContext } from './context.js';
import { readyEvidence } from './evidence.js';
import type { AuditResult } from './finding.js';
import { Kept } from './kept.js';
import { withRehearsals } from './rehearsed.js';
import type { Report } from './rule.js';
import { touchedBy } from './touched.js';

/**
 * An open project with its audit, which is kept up with edits: the result is that of an audit from scratch, but what an
 * edit does not touch is taken over: `touched.ts` says what each part of a document touches. After an edit of bindings, of
 * places and areas, of policy, notes, pictures, waivers or rehearsals the expansion stays, the graph is patched, what is known of the
 * whole graph is revised, and rules look only at what the edit touches; the rest is copied, so what remains of the project's
 * size is a few passes over arrays. After any other edit all is worked out anew.
 */
export class LiveAudit {
  private kept = new Kept();
  private ctx!: AuditContext;
  result!: AuditResult;

  private constructor(
    private current: Project,
    private readonly today: string,
  ) {}

  /** @throws ProjectTooLarge */
  static open(project: Project, today: string): LiveAudit {
    return finish(LiveAudit.opening(project, today));
  }
  /** {@link open} step by step, for who shows how far it is or may cancel it. */
  static *opening(project: Project, today: string): Generator<WorkStep, LiveAudit> {
    const live = new LiveAudit(distinct(project), today);
    const graph = yield* graphSteps(indexProject(live.current));
    live.ctx = new AuditContext(graph, today, live.kept);
    live.result = yield* live.auditing(live.ctx);
    return live;
  }
  get project(): Project {
    return this.current;
  }

  /** What is known of the project as it is, for questions besides the audit. */
  get context(): AuditContext {
    return this.ctx;
  }
  /** The result with the rehearsals that the policy counts, as an audit from scratch has it. Cost: their runs. */
  get withRehearsals(): AuditResult {
    return withRehearsals(this.result, this.ctx.g.x, undefined);
  }

  /** Applies changes and audits again. On an error the project stays as it was. @throws EditRefused, ProjectTooLarge */
  apply(changes: readonly Change[]): AuditResult {
    // What comes in may stand elsewhere too.
    const { project } = applyChanges(this.current, changes.map(copyOf));
    try {
      const ctx = this.contextOf(reindexProject(this.ctx.index, project));
      this.result = finish(this.auditing(ctx));
      this.current = project;
      this.ctx = ctx;
      return this.result;
    } catch (error) {
      // What was kept may be half of one state and half of the other.
      this.ctx = this.anew(indexProject(this.current));
      throw error;
    }
  }

  private anew(index: ProjectIndex): AuditContext {
    this.kept = new Kept();
    return new AuditContext(buildGraph(expand(index)), this.today, this.kept);
  }
  private contextOf(index: ProjectIndex): AuditContext {
    const { ctx: before, today } = this;
    const touched = touchedBy(before.index.project, index.project);
    if (touched.has('all')) return this.anew(index);
    const x = before.x.withBindingsOf(index);
    const delta: GraphDelta | null = patchGraph(before.g, x);
    if (!delta) {
      const g = buildGraph(x);
      this.kept.blocks.clear();
      return new AuditContext(g, today, this.kept);
    }
    for (const what of ['plan', 'policy'] as const) if (touched.has(what)) this.kept.forget(what);
    this.kept.touch(delta);
    return new AuditContext(delta.graph, today, this.kept, { ctx: before, delta });
  }

  private *auditing(ctx: AuditContext): Generator<WorkStep, AuditResult> {
    const run: RunRule = (rule, report) => {
      if (!rule.meta.ignoresBindings) return rule.check(ctx, report);
      const reported = ctx.oncePlaced(
        `reported: ${rule.meta.name}`,
        () => {
          const reports: Report<string>[] = [];
          rule.check(ctx, (r) => reports.push({ ...r, evidence: readyEvidence(r.evidence()) }));
          return reports;
        },
        rule.meta.besides,
      );
      reported.forEach(report);
    };
    const result = yield* contextSteps(ctx, undefined, run);
    ctx.settle();
    return result;
  }
}
