import { sourceOf } from '../audit/source-of.js';
import type { AuditResult, Finding, PathEvidence } from '../audit/finding.js';
import type { FindingChange } from '../audit/compare.js';
import type { Rule } from '../audit/rule.js';
import { ALL_RULES } from '../audit/rules/registry.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Source } from '../project/types.js';
import { canonicalJson } from '../project/canonical.js';
import type { Located, Places } from './located.js';
import { ruleName } from './rule-name.js';

const LEVELS = { error: 'error', warning: 'warning', info: 'note' } as const;

export interface SarifOptions {
  /** The document or folder that was audited, as a relative URI. */
  artifact: string;
  /** The project, for where the game declares what findings speak of. */
  index?: ProjectIndex;
  /** What changed since a baseline; absent: there is none. */
  since?: FindingChange;
  /** Where what findings speak of is written. */
  places?: Places;
  /** The version of Oquel. */
  version?: string;
  /** The address of a guide, to whose pages rules lead, such as `https://oquel.example/guide`. */
  guide?: string;
  /** Rules of the team's own that were run besides. */
  ownRules?: readonly Rule[];
}

/**
 * The audit as SARIF 2.1.0: rules with help texts, logical locations for what findings speak of, the place in the game's
 * repository where its manifest gives one, partial fingerprints, suppressions for waivers, and the state against a baseline.
 */
export function auditSarif(result: AuditResult, options: SarifOptions): object {
  const rules = [...ALL_RULES, ...(options.ownRules ?? [])].map(({ meta }) => ({
    id: meta.name,
    shortDescription: { text: meta.what },
    fullDescription: { text: `${meta.what} ${meta.why}` },
    help: { text: `${meta.why} ${meta.fix}` },
    ...(options.guide === undefined || meta.group === 'own'
      ? {}
      : { helpUri: `${options.guide}/rules/${meta.name}.html` }),
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
        tool: {
          driver: {
            name: 'Oquel',
            ...(options.version === undefined ? {} : { semanticVersion: options.version }),
            rules,
          },
        },
        automationDetails: { id: 'oquel/audit/' },
        columnKind: 'utf16CodeUnits',
        artifacts: [{ location: { uri: options.artifact } }],
        results,
        properties: { project: result.project, gate: result.gate, metrics: result.metrics },
      },
    ],
  };
}

function sarifResult(f: Finding, indexOf: ReadonlyMap<string, number>, options: SarifOptions): object {
  const { index, places } = options;
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
        physicalLocation: physical(places?.of(f.subject) ?? null, options),
        logicalLocations: logical.length > 0 ? logical : [{ fullyQualifiedName: canonicalJson(f.subject) }],
      },
    ],
    ...(source ? { relatedLocations: [declaredAt(source)] } : {}),
    ...(f.evidence.kind === 'path' ? { codeFlows: [codeFlow(f.evidence, options)] } : {}),
    partialFingerprints: { 'oquel/v1': f.fingerprint },
    ...(f.waived ? { suppressions: [suppression(f, index)] } : {}),
    properties: { subject: f.subject },
  };
}

/** A place in the document, or in a file of the folder; without one the whole of it. */
function physical(at: Located | null, { artifact }: SarifOptions): object {
  if (!at) return { artifactLocation: { uri: artifact, index: 0 } };
  const { line, column, endLine, endColumn } = at.region;
  return {
    artifactLocation:
      at.file === '' ? { uri: artifact, index: 0 } : { uri: `${artifact}/${encodeURI(at.file)}` },
    region: { startLine: line, startColumn: column, endLine, endColumn },
  };
}

/** A chain or cycle, step by step, each with the binding that leads to it. */
function codeFlow({ steps }: PathEvidence, options: SarifOptions): object {
  return {
    threadFlows: [
      {
        locations: steps.map(({ node, via }) => {
          const name = node.at === undefined ? `#${node.name}` : `${node.at}.${node.name}`;
          const by = via?.binding ? ` by binding ${via.binding.binding} of ${via.binding.asset}` : '';
          const place = via?.binding ? (options.places?.ofBinding(via.binding) ?? null) : null;
          return {
            location: {
              ...(place ? { physicalLocation: physical(place, options) } : {}),
              logicalLocations: [{ fullyQualifiedName: name, kind: 'member' }],
              message: { text: `${node.type} ${name}${by}` },
            },
          };
        }),
      },
    ],
  };
}

/** By which waiver a finding is accepted. */
function suppression(f: Finding, index: ProjectIndex | undefined): object {
  const waiver = index?.project.waivers?.find((w) => !w.proposed && w.fingerprint === f.fingerprint);
  if (!waiver) return { kind: 'external', status: 'accepted' };
  const until = waiver.until === undefined ? '' : `, until ${waiver.until}`;
  return { kind: 'external', status: 'accepted', justification: `${waiver.reason} (${waiver.by}${until})` };
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
