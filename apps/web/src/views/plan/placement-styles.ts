import { differencesOf, differs, type AssetIndex, type Finding, type ProjectIndex } from '@oquel/core';
import type { ThingStyle } from '../../parts/plan/plan-thing.js';
import type { Covered } from '../../session/coverage.js';

/** Findings that are not waived, by the placement of this owner that they speak of. */
export function findingsByPlacement(findings: readonly Finding[], owner: AssetIndex): Map<string, Finding[]> {
  const by = new Map<string, Finding[]>();
  const add = (id: string, f: Finding): void => {
    const own = by.get(id);
    if (own) own.push(f);
    else by.set(id, [f]);
  };
  const scene = `${owner.decl.id}:`;
  for (const f of findings) {
    if (f.waived) continue;
    const s = f.subject;
    if ('placement' in s && s.placement !== undefined && s.asset === owner.decl.id) add(s.placement, f);
    else if (f.rule === 'shared-key' || f.rule === 'default-key') {
      for (const at of f.occurrences) {
        const id = at.startsWith(scene) ? at.slice(scene.length) : '';
        if (owner.placementAt.has(id)) add(id, f);
      }
    }
  }
  return by;
}

/** What is to be seen of placements. */
export interface Standing {
  chosen: readonly string[];
  findings: ReadonlyMap<string, readonly Finding[]>;
  covered: ReadonlyMap<string, Covered>;
  /** What begins asleep is faded. */
  sleepers?: boolean;
}

/** How each placement stands out: chosen, at fault, other than its prefab. Cost: the placements. */
export function thingStylesOf(
  index: ProjectIndex,
  owner: AssetIndex,
  { chosen, findings, covered, sleepers = false }: Standing,
): Map<string, ThingStyle> {
  const rank = { error: 0, warning: 1, info: 2 } as const;
  const thingStyles = new Map<string, ThingStyle>();
  for (const [id, list] of findings) {
    const [worst] = [...list].sort((a, b) => rank[a.severity] - rank[b.severity]);
    thingStyles.set(id, { fault: worst.severity });
  }
  for (const p of owner.placements) {
    if (differs(differencesOf(index, p))) thingStyles.set(p.id, { ...thingStyles.get(p.id), differs: true });
  }
  for (const [id, how] of covered) {
    if (owner.placementAt.has(id)) thingStyles.set(id, { ...thingStyles.get(id), covered: how });
  }
  // What starts asleep stands out when the rest steps back.
  if (sleepers) {
    for (const { id, asleep } of owner.placements) {
      thingStyles.set(id, { ...thingStyles.get(id), [asleep ? 'lit' : 'faded']: true });
    }
  }
  for (const id of chosen) thingStyles.set(id, { ...thingStyles.get(id), chosen: true });
  return thingStyles;
}

/** For each placement how many of the owner's bindings name it or something in it. */
export function namingCounts(owner: AssetIndex): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { from, to } of owner.bindings) {
    const named = new Set([from, to].flatMap((end) => ('at' in end ? [end.at.split('/')[0]] : [])));
    for (const id of named) counts.set(id, (counts.get(id) ?? 0) + 1);
  }
  return counts;
}

/** The worst that is found of each binding of an owner. Linear in the findings. */
export function faultsOfBindings(
  findings: readonly Finding[],
  owner: string,
): Map<string, 'error' | 'warning'> {
  const faults = new Map<string, 'error' | 'warning'>();
  for (const { subject, severity, waived } of findings) {
    if (waived || severity === 'info') continue;
    const refs = 'bindings' in subject ? subject.bindings : 'binding' in subject ? [subject] : [];
    for (const { asset, binding } of refs) {
      if (asset === owner && faults.get(binding) !== 'error') faults.set(binding, severity);
    }
  }
  return faults;
}
