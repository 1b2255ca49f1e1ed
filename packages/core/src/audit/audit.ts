import { expand } from '../expand/expand.js';
import { buildGraph } from '../graph/build.js';
import type { Graph } from '../graph/graph.js';
import { distinct } from '../project/distinct.js';
import { indexProject } from '../project/index-project.js';
import type { Project } from '../project/types.js';
import { finish, type WorkStep } from '../util/steps.js';
import { AuditState } from './audit-state.js';
import type { AuditResult } from './finding.js';
import { withRehearsals } from './rehearsed.js';
import type { Rule } from './rule.js';
import { RULES } from './rules/registry.js';

export interface AuditOptions {
  /** ISO date on which waivers are judged. */
  today: string;
  /** Overrides the policy's gate. `none` always passes. */
  gate?: 'error' | 'warning' | 'none';
  /** The rules that are run; those of the core if left out. */
  rules?: readonly Rule[];
}

/**
 * Audits a project: expansion, graph, all rules, waivers, gate; rehearsals too where the policy counts them. A pure
 * function of its arguments. Linear in the expanded graph, but for what single rules say of themselves.
 * @throws ProjectTooLarge
 */
export function audit(project: Project, options: AuditOptions): AuditResult {
  return finish(auditSteps(project, options));
}

/** {@link audit} step by step, for who shows how far it is or may cancel it. */
export function* auditSteps(project: Project, options: AuditOptions): Generator<WorkStep, AuditResult> {
  const { today, gate, rules = RULES } = options;
  yield AuditState.step('expanding placements', 0);
  const x = expand(indexProject(distinct(project)));
  yield AuditState.step('building the graph', 1);
  const state = yield* AuditState.judging(buildGraph(x), today, rules);
  yield AuditState.step('running the rehearsals', AuditState.STEPS);
  return withRehearsals(state.result(gate), x, gate);
}

/** The audit of a graph that is already built, without rehearsals. */
export function auditGraph(g: Graph, today: string, rules: readonly Rule[] = RULES): AuditResult {
  return finish(AuditState.judging(g, today, rules)).result();
}
