import { parsePath, type ParsedPath } from '../project/path.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Expansion } from './expansion.js';
import type { StandIn } from './stand-ins.js';

/** What a path names: an instance (>= 0), nothing, or something inside a placement that yields no instance. */
export const MISSING = -1;
/** Its own finding (`unknown-asset`, `nesting-loop`) says it, so whoever names it is not blamed again. */
export const BLOCKED = -2;

/** Resolves one authored path in any copy of its owner. */
export class PathPlan {
  private readonly parsed: ParsedPath;
  private readonly scene: number;

  constructor(
    private readonly x: Expansion,
    private readonly sceneInstances: ReadonlyMap<number, number>,
    readonly path: string,
  ) {
    this.parsed = parsePath(path);
    this.scene = this.parsed.scene === null ? -1 : sceneNumber(x.index, this.parsed.scene);
  }

  /** The instance that the path names from that owner, or {@link MISSING} or {@link BLOCKED}. Cost: its segments. */
  resolve(owner: number): number {
    const x = this.x;
    let at = owner;
    if (this.parsed.scene !== null) {
      if (this.scene < 0) return MISSING;
      at = this.sceneInstances.get(this.scene) ?? MISSING;
      if (at < 0) return MISSING;
    }
    for (const segment of this.parsed.segments) {
      if (segment.charCodeAt(0) === TILDE) {
        const asset = x.index.assetAt.get(segment.slice(1));
        at = asset === undefined ? MISSING : x.standInOf(at, asset);
        if (at < 0) return MISSING;
      } else {
        const slot = x.assetOf(at).placementAt.get(segment);
        if (slot === undefined) return MISSING;
        at = x.children[x.childBase[at] + slot];
        if (at < 0) return BLOCKED;
      }
    }
    return at;
  }
}
const TILDE = 126;

function sceneNumber(index: ProjectIndex, id: string): number {
  const at = index.assetAt.get(id);
  return at !== undefined && index.assets[at].decl.kind === 'scene' ? at : -1;
}

/**
 * The asset that a path names by the text alone, for owners that may have no instance.
 * Returns its number, or {@link MISSING} or {@link BLOCKED}.
 */
export function resolveByText(
  index: ProjectIndex,
  standIns: readonly (readonly StandIn[])[],
  owner: number,
  path: string,
): number {
  const parsed = parsePath(path);
  let at = parsed.scene === null ? owner : sceneNumber(index, parsed.scene);
  if (at < 0) return MISSING;
  let holder = at;
  let spawned = false;
  let containing = [at];
  for (const segment of parsed.segments) {
    if (segment.charCodeAt(0) === TILDE) {
      const asset = index.assetAt.get(segment.slice(1));
      if (asset === undefined || !standIns[holder].some((s) => s.asset === asset)) return MISSING;
      at = asset;
      spawned = true;
      containing = [at];
    } else {
      const slot = index.assets[at].placementAt.get(segment);
      if (slot === undefined) return MISSING;
      at = index.assets[at].placed[slot];
      if (at < 0 || containing.includes(at)) return BLOCKED;
      containing.push(at);
      if (!spawned) holder = at;
    }
  }
  return at;
}
