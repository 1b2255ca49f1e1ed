import { expand } from '../expand/expand.js';
import { buildGraph } from '../graph/build.js';
import { distinct } from '../project/distinct.js';
import { indexProject, type ProjectIndex } from '../project/index-project.js';
import type { Project } from '../project/types.js';
import type { Graph } from '../graph/graph.js';
import { finish, type WorkStep } from '../util/steps.js';
import { Collector } from './collect.js';
import { AuditContext } from './context.js';
import type { AuditResult, Finding, Metrics, Summary } from './finding.js';
import type { Report, Rule } from './rule.js';
import { RULES } from './rules/registry.js';
import { severityOf } from './policy.js';
import { withRehearsals } from './rehearsed.js';
import { applyWaivers, idleWaiver, isStale, staleWaiver } from './waivers.js';

export interface AuditOptions {
  /** ISO date on which waivers are judged. */
  today: string;
  /** Overrides the policy's gate. `none` always passes. */
  gate?: 'error' | 'warning' | 'none';
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
  const graph = yield* graphSteps(indexProject(distinct(project)));
  const result = yield* contextSteps(new AuditContext(graph, options.today), options.gate);
  yield stepOf('running the rehearsals', STEPS);
  return withRehearsals(result, graph.x, options.gate);
}

const BEFORE_RULES = 2;
/** Steps of an audit from the beginning: the expansion, the graph, each rule, the waivers. */
const STEPS = BEFORE_RULES + RULES.length + 1;
const stepOf = (doing: string, done: number): WorkStep => ({ doing, done, of: STEPS });

/** The first steps of an audit: the expanded graph. @throws ProjectTooLarge */
export function* graphSteps(index: ProjectIndex): Generator<WorkStep, Graph> {
  yield stepOf('expanding placements', 0);
  const x = expand(index);
  yield stepOf('building the graph', 1);
  return buildGraph(x);
}

/** Runs one rule, or repeats what it reported before. */
export type RunRule = (rule: Rule, report: (r: Report<string>) => void) => void;

/** The audit of a graph that is already built, without rehearsals. */
export function auditContext(ctx: AuditContext, gate?: AuditOptions['gate'], run?: RunRule): AuditResult {
  return finish(contextSteps(ctx, gate, run));
}

/** {@link auditContext} step by step: a step for each rule. */
export function* contextSteps(
  ctx: AuditContext,
  gate?: AuditOptions['gate'],
  run: RunRule = (rule, report) => rule.check(ctx, report),
): Generator<WorkStep, AuditResult> {
  const { project } = ctx.index;
  const collector = new Collector(ctx.x, project.policy, ctx.wording);
  for (const [i, rule] of RULES.entries()) {
    yield stepOf(`checking ${rule.meta.name}`, BEFORE_RULES + i);
    run(rule, (r) => collector.take(rule, r));
  }
  yield stepOf('judging waivers', BEFORE_RULES + RULES.length);
  applyWaivers(collector.findings(), project.waivers ?? [], ctx.today);
  reportWaivers(ctx, collector);
  const findings = collector.findings();
  ctx.wording = collector.wording();
  return {
    format: 'oquel.audit/1',
    project: project.name,
    summary: summarize(findings),
    gate: gateOf(findings, gate ?? project.policy?.gate ?? 'error'),
    metrics: measure(ctx),
    findings,
  };
}

function reportWaivers(ctx: AuditContext, collector: Collector): void {
  const { policy, waivers = [] } = ctx.index.project;
  const there = new Set(collector.findings().map((f) => f.fingerprint));
  const off = offRules(ctx, policy);
  for (const w of waivers) {
    const subject = { waiver: w.fingerprint };
    const common = {
      subject,
      occurrences: [],
      evidence: () => ({ kind: 'bindings' as const, bindings: [] }),
    };
    if (isStale(w, ctx.today)) {
      const data = { by: w.by, reason: w.reason, until: w.until! };
      collector.take(staleWaiver, { ...common, message: 'stale', data });
    } else if (!there.has(w.fingerprint) && !off.has(w.fingerprint)) {
      collector.take(idleWaiver, { ...common, message: 'idle', data: { by: w.by, reason: w.reason } });
    }
  }
}

/** Fingerprints that would be found but for the policy's `off`: a waiver for one of them is not idle. */
function offRules(ctx: AuditContext, policy: Project['policy']): Set<string> {
  const { waivers = [] } = ctx.index.project;
  const severities = Object.entries(policy?.severity ?? {});
  if (waivers.length === 0 || severities.every(([, s]) => s !== 'off')) return new Set();
  const all = new Collector(ctx.x, {
    ...policy,
    severity: Object.fromEntries(severities.filter(([, s]) => s !== 'off')),
  });
  const isOff = (rule: string, cls?: string): boolean => severityOf(policy, rule, cls, 'info') === 'off';
  for (const rule of RULES) {
    rule.check(ctx, (r) => {
      if (isOff(rule.meta.name, r.class)) all.take(rule, r);
    });
  }
  return new Set(all.findings().map((f) => f.fingerprint));
}

function summarize(findings: readonly Finding[]): Summary {
  const summary: Summary = { error: 0, warning: 0, info: 0, waived: 0 };
  for (const f of findings) summary[f.waived ? 'waived' : f.severity]++;
  return summary;
}

/** Stops when a finding at or above that severity is not waived. */
export function gateOf(findings: readonly Finding[], gate: 'error' | 'warning' | 'none'): 'pass' | 'stop' {
  if (gate === 'none') return 'pass';
  const stops = findings.some(
    (f) => !f.waived && (f.severity === 'error' || (gate === 'warning' && f.severity === 'warning')),
  );
  return stops ? 'stop' : 'pass';
}

function measure(ctx: AuditContext): Metrics {
  const { g, x, index } = ctx;
  let longestChain = 0;
  const { chains, components, fanOut } = ctx;
  for (const node of ctx.outsideEvents) {
    longestChain = Math.max(longestChain, chains.length[components.of[node]]);
  }
  let widestFanOut = 0;
  for (const fan of fanOut) if (fan > widestFanOut) widestFanOut = fan;
  let cycles = 0;
  for (const cyclic of chains.hasCycle) cycles += cyclic;
  return {
    assets: index.assets.length,
    instances: x.count,
    bindings: index.assets.reduce((sum, a) => sum + a.bindings.length, 0),
    expandedBindings: g.expandedBindings,
    nodes: g.nodes,
    edges: g.head.length,
    longestChain,
    widestFanOut,
    cycles,
  };
}
