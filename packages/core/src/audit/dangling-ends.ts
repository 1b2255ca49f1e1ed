import { BLOCKED, MISSING } from '../expand/resolve.js';
import { Fault, judgeEnds } from '../graph/faults.js';
import { FAULT_STRIDE } from '../graph/graph.js';
import type { AssetIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';
import type { AuditGround } from './ground.js';

/** A binding with faults at its ends: one authored binding, one fault bit, the owners in whose copy it is. */
export interface EndFault {
  owner: AssetIndex;
  binding: Binding;
  fault: number;
  owners: number[];
}

/**
 * Every fault of every enabled binding: from its expanded copies, or by the text in an asset that has no instance.
 * Made once for the rules on targets and on senders. Linear in bindings and faulty copies.
 */
export function endFaults(ctx: AuditGround): EndFault[] {
  const { x, g, index } = ctx;
  const found = new Map<string, EndFault>();
  const add = (owner: AssetIndex, at: number, faults: number, instance: number): void => {
    for (const fault of Object.values(Fault)) {
      if ((faults & fault) === 0) continue;
      const id = `${owner.at}/${at}/${fault}`;
      let entry = found.get(id);
      if (!entry) found.set(id, (entry = { owner, binding: owner.bindings[at], fault, owners: [] }));
      if (instance >= 0) entry.owners.push(instance);
    }
  };
  for (let i = 0; i < g.faulty.length; i += FAULT_STRIDE) {
    const instance = x.ownerOf(g.faulty[i]);
    add(x.assetOf(instance), g.faulty[i] - x.bindingBase[instance], g.faulty[i + 1], instance);
  }
  for (const owner of index.assets) {
    if (ctx.copies[owner.at] > 0) continue;
    owner.bindings.forEach((binding, at) => {
      if (binding.enabled === false) return;
      const sender = 'at' in binding.from ? endByText(ctx, owner, binding.from.at) : MISSING;
      const receiver = 'at' in binding.to ? endByText(ctx, owner, binding.to.at) : MISSING;
      add(owner, at, judgeEnds(index, owner, binding, sender, receiver), -1);
    });
  }
  return [...found.values()].filter((f) => f.fault !== Fault.FromBlocked && f.fault !== Fault.ToBlocked);
}

function endByText(ctx: AuditGround, owner: AssetIndex, path: string): number {
  return ctx.assetAtPath(owner.at, path);
}

/** The asset at the end of a path, for messages: from a copy if there is one. */
export function assetAtEnd(ctx: AuditGround, fault: EndFault, path: string): AssetIndex | null {
  const at = ctx.assetAtPath(fault.owner.at, path);
  return at === MISSING || at === BLOCKED ? null : ctx.index.assets[at];
}

/** Known names that might have been meant, for evidence: so many at most. */
const KNOWN = 200;
/** The first of them. */
export function knownNames(names: Iterable<string>): string[] {
  const known: string[] = [];
  for (const name of names) if (known.push(name) >= KNOWN) break;
  return known;
}

/** Placements of the owner, in order, as the names a path may begin with. */
export function placementNames(owner: AssetIndex): string[] {
  return owner.placements.slice(0, KNOWN).map((p) => p.id);
}

/** The asset that lacks a property which the key or match of an end reads. */
export function lacking(
  property: string,
  candidates: (AssetIndex | null)[],
): { asset: AssetIndex; property: string } | null {
  for (const asset of candidates) if (asset && !asset.propertyAt.has(property)) return { asset, property };
  return null;
}
