import { auditContext } from '../audit/audit.js';
import { compareFindings } from '../audit/compare.js';
import { AuditContext } from '../audit/context.js';
import type { Finding } from '../audit/finding.js';
import { applyChanges } from '../edit/apply.js';
import type { ChangeSet } from '../edit/change.js';
import { expand } from '../expand/expand.js';
import { buildGraph } from '../graph/build.js';
import { indexProject } from '../project/index-project.js';
import type { Project } from '../project/types.js';
import {
  fixByRemoval,
  fixEmptySelection,
  fixKey,
  fixOneOfTwo,
  fixPayload,
  fixRelease,
  fixSpill,
  fixStartRace,
  fixUnpaired,
} from './bindings.js';
import { fixCondition } from './conditions.js';
import { fixCycle } from './cycles.js';
import { fixSender, fixTarget } from './dangling.js';
import { fixByNewAsset, fixEffect } from './declaring.js';
import { fixByNewKey } from './keys.js';
import { fixAsleep, fixDefaultKey, fixName, fixSharedKey, fixUnknownAsset } from './placements.js';
import type { Fixer } from './proposal.js';
import { fixUnhandled } from './unhandled.js';
import { own } from '../util/own.js';

/** A cure that has been tried: what it does to the findings. */
export interface Cure extends ChangeSet {
  gone: Finding[];
  added: Finding[];
}

/** Rules that have a cure; the others need a thought that no list of changes can have. */
const FIXERS: Readonly<Record<string, Fixer>> = {
  'asleep-receiver': fixAsleep,
  'asleep-sender': fixAsleep,
  'broadcast-spill': fixSpill,
  'dangling-effect': fixEffect,
  'dangling-key': (index, finding) => [...fixKey(index, finding), ...fixByNewKey(index, finding)],
  'dangling-name': (index, finding) => [...fixName(index, finding), ...fixCondition(index, finding)],
  'dangling-sender': fixSender,
  'dangling-target': fixTarget,
  'duplicate-binding': fixOneOfTwo,
  'empty-selection': fixEmptySelection,
  'first-of-many': fixSpill,
  'leaky-binding': fixRelease,
  'never-true': fixByRemoval,
  'opposing-actions': fixOneOfTwo,
  'orphan-listener': fixByRemoval,
  'over-release': fixRelease,
  'payload-mismatch': fixPayload,
  'default-key': fixDefaultKey,
  'shared-key': fixSharedKey,
  'start-race': fixStartRace,
  'unhandled-value': fixUnhandled,
  'unheard-channel': fixByRemoval,
  'unknown-asset': (index, finding) => [...fixUnknownAsset(index, finding), ...fixByNewAsset(index, finding)],
  'unpaired-area': fixUnpaired,
};

/**
 * Cures for a finding, each tried by auditing the changed project: those that do not cure it are left out, those that
 * bring new errors come last. Cost: one audit for each proposal.
 */
export function proposeFixes(project: Project, finding: Finding, today: string): Cure[] {
  const before = contextOf(project, today);
  const findings = auditContext(before).findings;
  const proposals =
    finding.rule === 'relay-cycle'
      ? fixCycle(before.g, finding)
      : (own(FIXERS, finding.rule)?.(before.index, finding) ?? []);
  const cures = proposals.flatMap((proposal): Cure[] => {
    const { project: changed } = applyChanges(project, proposal.changes);
    const after = auditContext(contextOf(changed, today)).findings;
    const { added, gone } = compareFindings(findings, after);
    return cured(finding, after, added) ? [{ ...proposal, added, gone }] : [];
  });
  const errors = (c: Cure): number => c.added.filter((f) => f.severity === 'error').length;
  return cures.sort((a, b) => Number(errors(a) > 0) - Number(errors(b) > 0));
}

/** A cycle is not cured by turning into another one that is as bad. */
function cured(finding: Finding, after: readonly Finding[], added: readonly Finding[]): boolean {
  if (after.some((f) => f.fingerprint === finding.fingerprint)) return false;
  return (
    finding.rule !== 'relay-cycle' ||
    !added.some((f) => f.rule === 'relay-cycle' && (f.class === finding.class || f.severity === 'error'))
  );
}
function contextOf(project: Project, today: string): AuditContext {
  return new AuditContext(buildGraph(expand(indexProject(project))), today);
}
