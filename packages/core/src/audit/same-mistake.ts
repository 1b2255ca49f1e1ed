import type { ProjectIndex } from '../project/index-project.js';
import type { Finding } from './finding.js';

/**
 * What makes findings the same mistake in several places: the same name that is missing, or the same fault of placements of
 * one prefab. Null where a finding stands for itself. Constant time.
 */
export function mistakeOf(
  index: ProjectIndex,
  { rule, class: of = '', subject, evidence }: Finding,
): string | null {
  if (evidence.kind === 'names') return `${rule}/${of}/name ${evidence.wanted}`;
  if (!('placement' in subject) || subject.placement === undefined) return null;
  const owner = index.assets[index.assetAt.get(subject.asset) ?? -1];
  const placement = owner?.placements[owner.placementAt.get(subject.placement) ?? -1];
  if (!placement) return null;
  const part = 'property' in subject ? subject.property : 'name' in subject ? subject.name : '';
  return `${rule}/${of}/prefab ${placement.asset} ${part}`;
}

/** Findings with the same mistake, in the order of the first of each. */
export interface Mistake {
  /** The same for the same mistake; a fingerprint where a finding stands for itself. */
  key: string;
  findings: Finding[];
}

/** Gathers findings by their mistake. Linear. */
export function mistakesOf(index: ProjectIndex, findings: readonly Finding[]): Mistake[] {
  const by = new Map<string, Mistake>();
  for (const f of findings) {
    const key = mistakeOf(index, f) ?? f.fingerprint;
    const found = by.get(key);
    if (found) found.findings.push(f);
    else by.set(key, { key, findings: [f] });
  }
  return [...by.values()];
}
