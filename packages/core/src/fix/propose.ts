import { compareFindings } from '../audit/compare.js';
import { IncrementalAudit } from '../audit/incremental-audit.js';
import type { Finding } from '../audit/finding.js';
import type { ChangeSet } from '../edit/change.js';
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
import type { ProposeFixes } from './proposal.js';
import { fixUnhandled } from './unhandled.js';
import { own } from '../util/own.js';

/** A fix that has been tried: what it does to the findings. */
export interface TriedFix extends ChangeSet {
  gone: Finding[];
  added: Finding[];
}

/** Rules that have a fix; the others need a thought that no list of changes can have. */
const FIXES_OF_RULES: Readonly<Record<string, ProposeFixes>> = {
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
 * Fixes for a finding, each tried on the changed project: those that do not fix it are left out, those that bring new errors
 * come last. Cost: an audit, and {@link fixesIn}.
 */
export function proposeFixes(project: Project, finding: Finding, today: string): TriedFix[] {
  return fixesIn(IncrementalAudit.open(project, today), finding);
}

/** The same in an open audit, which is as it was afterwards. Cost: an edit and its taking back for each proposal. */
export function fixesIn(audit: IncrementalAudit, finding: Finding): TriedFix[] {
  const { result, inputs } = audit;
  const proposals =
    finding.rule === 'relay-cycle'
      ? fixCycle(inputs.g, finding)
      : (own(FIXES_OF_RULES, finding.rule)?.(inputs.index, finding) ?? []);
  const fixes = proposals.flatMap((proposal): TriedFix[] => {
    const after = audit.trying(proposal.changes, (tried) => tried.result.findings);
    const { added, gone } = compareFindings(result.findings, after);
    return isFixed(finding, after, added) ? [{ ...proposal, added, gone }] : [];
  });
  const errors = (fix: TriedFix): number => fix.added.filter((f) => f.severity === 'error').length;
  return fixes.sort((a, b) => Number(errors(a) > 0) - Number(errors(b) > 0));
}

/** A cycle is not fixed by turning into another one that is as bad. */
function isFixed(finding: Finding, after: readonly Finding[], added: readonly Finding[]): boolean {
  if (after.some((f) => f.fingerprint === finding.fingerprint)) return false;
  return (
    finding.rule !== 'relay-cycle' ||
    !added.some((f) => f.rule === 'relay-cycle' && (f.class === finding.class || f.severity === 'error'))
  );
}
