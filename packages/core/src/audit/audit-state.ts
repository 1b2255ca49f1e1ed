import type { Graph } from '../graph/graph.js';
import type { WorkStep } from '../util/steps.js';
import type { AuditResult, Finding, Metrics, Summary } from './finding.js';
import type { FindingChange } from './compare.js';
import { FindingList } from './findings.js';
import { AnalysisInputs } from './inputs.js';
import { Judge, JUDGE_STEPS } from './judge.js';
import { ReportStore } from './report-store.js';
import type { Rule } from './rule.js';
import type { UnitKind } from './units.js';

const BEFORE_RULES = 3;

/** What is being judged, for who shows how far an audit is. */
const DOING: Readonly<Record<UnitKind, string>> = {
  project: 'checking the project',
  asset: 'checking declarations',
  copies: 'checking copies',
  channel: 'checking channels',
  binding: 'checking bindings',
  event: 'checking events',
  action: 'checking actions',
  instance: 'checking instances',
  cycle: 'checking cycles',
  tie: 'checking what ties assets together',
  audience: 'checking what listens on channels',
  gap: 'checking what is spawned',
};

/** A graph with all that an audit found in it. */
export class AuditState {
  /** Steps of an audit from the beginning: the expansion, the graph, its facts, and each kind of unit. */
  static readonly STEPS = BEFORE_RULES + JUDGE_STEPS;
  static step(doing: string, done: number): WorkStep {
    return { doing, done, of: AuditState.STEPS };
  }

  readonly judge: Judge;
  private readonly store = new ReportStore();
  private readonly list: FindingList;

  private constructor(
    readonly inputs: AnalysisInputs,
    rules: readonly Rule[],
    previous: readonly Finding[],
  ) {
    this.judge = new Judge(inputs, rules, this.store);
    this.list = new FindingList(inputs, this.store, this.judge, previous);
  }

  /** Judges all of a graph, step by step. Findings that say what they said in a result before are the same objects. */
  static *judging(
    g: Graph,
    today: string,
    rules: readonly Rule[],
    previous: readonly Finding[] = [],
  ): Generator<WorkStep, AuditState> {
    yield AuditState.step('following chains', BEFORE_RULES - 1);
    const state = new AuditState(new AnalysisInputs(g, today), rules, previous);
    for (const { kind, done } of state.judge.all()) yield AuditState.step(DOING[kind], BEFORE_RULES + done);
    return state;
  }

  /** The audit as it stands. Cost: the findings, and those that changed since the last time. */
  result(gate?: 'error' | 'warning' | 'none'): AuditResult {
    const { project } = this.inputs.index;
    const findings = this.list.list();
    return {
      format: 'oquel.audit/1',
      project: project.name,
      summary: summarize(findings),
      gate: gateOf(findings, gate ?? project.policy?.gate ?? 'error'),
      metrics: measure(this.inputs),
      findings,
    };
  }
  /** What the last {@link result} had otherwise than the one before. */
  get change(): FindingChange {
    return this.list.change;
  }
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

function measure({ g, x, index, facts }: AnalysisInputs): Metrics {
  return {
    assets: index.assets.length,
    instances: x.size.instances,
    bindings: index.assets.reduce((sum, a) => sum + a.bindings.length, 0),
    expandedBindings: g.expandedBindings,
    nodes: x.size.nodes + g.channels.node.length - g.channels.goneCount,
    edges: g.edges,
    longestChain: facts.longestChains.greatest,
    widestFanOut: facts.widths.greatest,
    cycles: facts.cyclic.size,
  };
}
