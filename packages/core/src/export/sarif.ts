import { sourceOf } from '../audit/source-of.js';
import type { AuditResult, Finding } from '../audit/finding.js';
import type { FindingChange } from '../audit/compare.js';
import { ALL_RULES } from '../audit/rules/registry.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Source } from '../project/types.js';
import { canonicalJson } from '../project/canonical.js';
import { ruleName } from './rule-name.js';

const LEVELS = { error: 'error', warning: 'warning', info: 'note' } as const;

export interface SarifOptions {
  /** The document or folder that was audited, as a relative URI. */
  artifact: string;
  /** The project, for where the game declares what findings speak of. */
  index?: ProjectIndex;
  /** What changed since a baseline; absent: there is none. */
  since?: FindingChange;
}

/**
 * The audit as SARIF 2.1.0: rules with help texts, logical locations for what findings speak of, the place in the game's
 * repository where its manifest gives one, partial fingerprints, suppressions for waivers, and the state against a baseline.
 */
export function auditSarif(result: AuditResult, options: SarifOptions): object {
  const rules = ALL_RULES.map(({ meta }) => ({
    id: meta.name,
    shortDescription: { text: meta.what },
    fullDescription: { text: `${meta.what} ${meta.why}` },
    help: { text: `${meta.why} ${meta.cure}` },
    defaultConfiguration: { level: LEVELS[meta.severity] },
    properties: { group: meta.group },
  }));
  const indexOf = new Map(rules.map((r, i) => [r.id, i]));
  const added = options.since && new Set(options.since.added);
  const state = (f: Finding): object => (added ? { baselineState: added.has(f) ? 'new' : 'unchanged' } : {});
  const results = [
    ...result.findings.map((f) => ({ ...sarifResult(f, indexOf, options), ...state(f) })),
    ...(options.since?.gone ?? []).map((f) => ({
      ...sarifResult(f, indexOf, options),
      baselineState: 'absent',
    })),
  ];
  return {
    $schema: 'https://json.schemastore.org/sarif-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: { driver: { name: 'Oquel', rules } },
        columnKind: 'utf16CodeUnits',
        artifacts: [{ location: { uri: options.artifact } }],
        results,
        properties: { project: result.project, gate: result.gate, metrics: result.metrics },
      },
    ],
  };
}

function sarifResult(
  f: Finding,
  indexOf: ReadonlyMap<string, number>,
  { artifact, index }: SarifOptions,
): object {
  const source = index && sourceOf(index, f.subject);
  const logical = f.occurrences.map((at) => ({ fullyQualifiedName: at, kind: 'object' }));
  return {
    ruleId: ruleName(f),
    ruleIndex: indexOf.get(f.rule) ?? -1,
    rule: { id: ruleName(f), index: indexOf.get(f.rule) ?? -1 },
    level: LEVELS[f.severity],
    message: { text: f.message },
    locations: [
      {
        physicalLocation: { artifactLocation: { uri: artifact, index: 0 } },
        logicalLocations: logical.length > 0 ? logical : [{ fullyQualifiedName: canonicalJson(f.subject) }],
      },
    ],
    ...(source ? { relatedLocations: [declaredAt(source)] } : {}),
    partialFingerprints: { 'oquel/v1': f.fingerprint },
    ...(f.waived ? { suppressions: [{ kind: 'external', status: 'accepted' }] } : {}),
    properties: { subject: f.subject },
  };
}

/** Where the game declares it, relative to its repository. */
function declaredAt({ file, line }: Source): object {
  return {
    id: 1,
    physicalLocation: {
      artifactLocation: { uri: encodeURI(file) },
      ...(line === undefined ? {} : { region: { startLine: line } }),
    },
    message: { text: 'declared here' },
  };
}
