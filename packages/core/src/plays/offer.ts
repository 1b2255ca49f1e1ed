import { assetAtAddress, freeBindingId } from '../edit/wiring.js';
import type { ChangeSet } from '../edit/change.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';
import type { PlayReport } from './play-report.js';

/**
 * The edit that says of what other code does that it does so: a binding of origin `code`, owned by the scene whose event led to
 * it. Null where it is not known what led to it, or the project does not have both. Constant but for a free id.
 */
export function codeBinding(
  index: ProjectIndex,
  { at, action, after }: PlayReport['unexplained'][number],
): ChangeSet | null {
  if (!after || !assetAtAddress(index, at) || !assetAtAddress(index, after.at)) return null;
  // A copy has no name in a binding; what it is a copy of has.
  if (at.includes('#') || after.at.includes('#')) return null;
  const scene = after.at.slice(0, after.at.indexOf(':'));
  const owner = index.assets[index.assetAt.get(scene) ?? -1] as ProjectIndex['assets'][number] | undefined;
  if (!owner) return null;
  const within = (address: string): string =>
    address.startsWith(`${scene}:`) ? address.slice(scene.length + 1) : address;
  const item: Binding = {
    id: freeBindingId(owner, `${after.event}-${action}`),
    from: { at: within(after.at), event: after.event },
    to: { at: within(at), action },
    origin: 'code',
  };
  return {
    label: `noted that code does ${action} of ${at} after ${after.event}`,
    changes: [{ op: 'insert', list: 'bindings', asset: scene, index: owner.bindings.length, item }],
  };
}

/** For each asset with bindings: how many of them have served in play, and which never have. */
export interface PlayedAsset {
  asset: string;
  of: number;
  played: number;
  never: string[];
}
/** For each authored binding, as `asset/binding`, how many of its copies have served. Linear in the report. */
export function servedInPlay(index: ProjectIndex, report: PlayReport): Map<string, number> {
  const served = new Map<string, number>();
  for (const { owner, binding } of report.coverage.bindings) {
    const asset = assetAtAddress(index, owner);
    if (!asset) continue;
    const key = `${asset.decl.id}/${binding}`;
    served.set(key, (served.get(key) ?? 0) + 1);
  }
  return served;
}
/** Linear in bindings and in the report. What is off is left out. */
export function playedByAsset(index: ProjectIndex, report: PlayReport): PlayedAsset[] {
  const served = servedInPlay(index, report);
  return index.assets.flatMap(({ decl, bindings }) => {
    const on = bindings.filter((b) => b.enabled !== false);
    if (on.length === 0) return [];
    const never = on.filter((b) => !served.has(`${decl.id}/${b.id}`)).map((b) => b.id);
    return [{ asset: decl.id, of: on.length, played: on.length - never.length, never }];
  });
}
