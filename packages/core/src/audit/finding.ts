import type { EdgeClass, EdgeKind } from '../graph/graph.js';
import type { Severity, Value } from '../project/types.js';

export interface BindingRef {
  asset: string;
  binding: string;
}
export interface EffectRefName {
  asset: string;
  action: string;
  effect: string;
}
/** What a finding is about, in authored names. Its canonical JSON is part of the finding's fingerprint. */
export type Subject =
  | BindingRef
  | (BindingRef & { param: string })
  /** What a condition of it names. */
  | (BindingRef & { name: string })
  | { asset: string }
  | { asset: string; placement: string }
  | { asset: string; placement: string; name: string }
  | { asset: string; placement?: string; property: string }
  | { asset: string; property: string; key: Value }
  | { asset: string; event: string }
  | { asset: string; event: string; name: string }
  | { asset: string; action: string }
  | { asset: string; action: string; param: string }
  | EffectRefName
  | (EffectRefName & { property: string })
  | { channel: string }
  | { channel: string; name: string }
  | { name: string }
  | { loadSet: string; name: string }
  | { bindings: [BindingRef, BindingRef] }
  | { bindings: BindingRef[]; effects: EffectRefName[] }
  | { assets: [string, string] }
  | { waiver: string };

/** A node of the graph in names. */
export interface NodeRef {
  type: 'event' | 'action' | 'channel';
  /** Address of the instance; absent for a channel. */
  at?: string;
  /** Of the event, action or channel. */
  name: string;
  /** Of a channel node that has one. */
  key?: Value;
}
/** An edge of the graph in names: by a binding of an owner, or by an effect. */
export interface EdgeRef {
  kind: EdgeKind;
  class: EdgeClass;
  /** Seconds; absent if none. */
  delay?: number;
  binding?: BindingRef;
  owner?: string;
  effect?: EffectRefName;
}
export interface PathStep {
  node: NodeRef;
  /** How the path came here; absent at its start. */
  via?: EdgeRef;
}
/** A stretch of a chain: hops one after another, or a cycle that it runs into. */
export interface ChainStretch {
  /** Actions in it. */
  hops: number;
  /** Number of the step at which it begins. */
  from: number;
  /** Of a cycle: a shortest way round, from the step at which it is entered back to it; empty where thousands of nodes lie nearer. */
  cycle?: PathStep[];
}
/** What proves a finding, in a form that can be drawn. */
export type Evidence =
  | {
      kind: 'path';
      steps: PathStep[];
      /** The last node is the first again. */ closed: boolean;
      latency: number;
      /** Steps beyond the last one, which are left out. */
      more?: number;
      /** Of a chain that runs into cycles: its stretches, which add up to its length. */
      parts?: ChainStretch[];
    }
  | { kind: 'nodes'; nodes: NodeRef[]; /** How many are left out. */ more: number }
  | { kind: 'names'; wanted: string; known: string[] }
  | { kind: 'bindings'; bindings: BindingRef[] }
  | { kind: 'places'; places: { at: string; note: string }[] };

export type PathEvidence = Extract<Evidence, { kind: 'path' }>;

export interface Finding {
  rule: string;
  class?: string;
  severity: Exclude<Severity, 'off'>;
  message: string;
  subject: Subject;
  /** Addresses, sorted by code units. */
  occurrences: string[];
  evidence: Evidence;
  fingerprint: string;
  waived?: true;
}

export interface Metrics {
  assets: number;
  instances: number;
  bindings: number;
  expandedBindings: number;
  nodes: number;
  edges: number;
  longestChain: number;
  widestFanOut: number;
  cycles: number;
}
export interface Summary {
  error: number;
  warning: number;
  info: number;
  waived: number;
}
export interface AuditResult {
  format: 'oquel.audit/1';
  project: string;
  summary: Summary;
  gate: 'pass' | 'stop';
  metrics: Metrics;
  findings: Finding[];
  /** Only where the policy counts rehearsals: how many were run, and the names of those that failed. */
  rehearsals?: { run: number; failed: string[] };
}
