import { BLOCKED, MISSING } from '../expand/resolve.js';
import { Fault } from '../graph/faults.js';
import { FAULT_STRIDE } from '../graph/graph.js';
import type { AssetIndex } from '../project/index-project.js';
import type { AnalysisInputs } from './inputs.js';
import { namesEvidence } from './evidence.js';
import type { Part } from './rule.js';
import type { BindingUnit } from './units.js';

/** The name that an end of a binding has and that is not there; with the names that are. */
export interface DanglingEnd<M extends string> {
  message: M;
  data: Readonly<Record<string, string>>;
  wanted: string;
  known: Iterable<string>;
}

/**
 * The part of a rule that judges an end of bindings: `describe` says which faults are the rule's, `words` what all its messages
 * say of a binding.
 */
export function danglingEnd<M extends string>(
  describe: (inputs: AnalysisInputs, unit: BindingUnit, fault: number) => DanglingEnd<M> | null,
  words: (unit: BindingUnit) => Readonly<Record<string, string>>,
): Part<'binding', M> {
  return {
    unit: 'binding',
    isCandidate: mayDangle,
    check(inputs, unit, report) {
      for (const { fault, owners } of endFaults(inputs, unit)) {
        const found = describe(inputs, unit, fault);
        if (!found) continue;
        report({
          subject: unit.subject,
          occurrences: owners,
          class: found.message,
          message: found.message,
          data: () => ({ ...found.data, ...words(unit), owner: unit.owner.decl.id }),
          evidence: () => namesEvidence(found.wanted, found.known),
        });
      }
    },
  };
}

/** One fault bit of an authored binding, with the owners in whose copy it is. */
interface EndFault {
  fault: number;
  owners: number[];
}

/**
 * The faults of a binding: from its expanded copies, or by the text in an asset that has no instance. Linear in its faulty
 * copies.
 */
function endFaults(inputs: AnalysisInputs, { owner, records, ends }: BindingUnit): EndFault[] {
  if (inputs.instancesOf(owner.at).length === 0) {
    return BLAMED.filter((fault) => (ends.faults & fault) !== 0).map((fault) => ({ fault, owners: [] }));
  }
  const faults = records?.faults ?? [];
  if (faults.length === 0) return [];
  return BLAMED.flatMap((fault): EndFault[] => {
    const owners: number[] = [];
    for (let i = 0; i < faults.length; i += FAULT_STRIDE)
      if ((faults[i + 1] & fault) !== 0) owners.push(faults[i]);
    return owners.length === 0 ? [] : [{ fault, owners }];
  });
}
/** Whether a binding may have faults: some copy has, or there is none. */
function mayDangle(inputs: AnalysisInputs, number: number): boolean {
  const { g, x } = inputs;
  return g.faulty.has(number) || inputs.instancesOf(x.slots.assetOf(number)).length === 0;
}
/** What is blocked has a finding of its own. */
const BLAMED = Object.values(Fault).filter((f) => f !== Fault.FromBlocked && f !== Fault.ToBlocked);

/** The asset at the end of a path, for messages: from a copy if there is one. */
export function assetAtEnd(inputs: AnalysisInputs, owner: AssetIndex, path: string): AssetIndex | null {
  const at = inputs.assetAtPath(owner.at, path);
  return at === MISSING || at === BLOCKED ? null : inputs.index.assets[at];
}

/** The asset that lacks a property which the key or match of an end reads. */
export function lacking(
  property: string,
  candidates: (AssetIndex | null)[],
): { asset: AssetIndex; property: string } | null {
  for (const asset of candidates) if (asset && !asset.propertyAt.has(property)) return { asset, property };
  return null;
}
