import { parsePath, type ParsedPath } from '../project/path.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Expansion } from './expansion.js';
import type { StandIns } from './stand-ins.js';

/** What a path names: an instance (>= 0), nothing, or something inside a placement that yields no instance. */
export const MISSING = -1;
/** Its own finding (`unknown-asset`, `nesting-loop`) says it, so whoever names it is not blamed again. */
export const BLOCKED = -2;

/** Resolves one authored path in any copy of its owner. */
export class CompiledPath {
  private readonly segments: readonly string[];
  /** The instance of the scene of an absolute path; −1 for a path from the owner. */
  private readonly start: number;
  /**
   * The way as slots, where it is the same in every copy; one that leads to a name that is not there ends in MISSING.
   * MISSING for one that begins nowhere; null where it names a stand-in, which depends on the holder.
   */
  private readonly slots: readonly number[] | typeof MISSING | null;

  constructor(
    private readonly x: Expansion,
    sceneInstances: ReadonlyMap<number, number>,
    path: string,
    owner: number,
  ) {
    const parsed: ParsedPath = parsePath(path);
    const scene = parsed.scene === null ? owner : sceneNumber(x.index, parsed.scene);
    this.start = parsed.scene === null || scene < 0 ? -1 : (sceneInstances.get(scene) ?? -1);
    const nowhere = parsed.scene !== null && this.start < 0;
    this.slots = nowhere ? MISSING : slotsOf(x.index, scene, parsed.segments);
    this.segments = this.slots === null ? parsed.segments : NO_SEGMENTS;
  }

  /** The instance that the path names from that owner, or {@link MISSING} or {@link BLOCKED}. Cost: its segments. */
  resolve(owner: number): number {
    const { slots, x } = this;
    let at = this.start < 0 ? owner : this.start;
    if (slots === MISSING) return MISSING;
    if (slots === null) return this.walk(at);
    for (let i = 0; i < slots.length; i++) {
      if (slots[i] < 0) return MISSING;
      at = x.children[x.childBase[at] + slots[i]];
      // Whatever is named behind it, there or not, is not to blame.
      if (at < 0) return BLOCKED;
    }
    return at;
  }

  private walk(from: number): number {
    const { x } = this;
    let at = from;
    for (const segment of this.segments) {
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

/**
 * The slots of a way without stand-ins, MISSING at the end for a name that is not there. Past a placement that yields
 * nothing no more can be said, nor needs to be: the slots up to there lead to BLOCKED.
 */
function slotsOf(index: ProjectIndex, owner: number, segments: readonly string[]): number[] | null {
  if (segments.some((s) => s.charCodeAt(0) === TILDE)) return null;
  const slots: number[] = [];
  let at = owner;
  for (const segment of segments) {
    const slot = index.assets[at].placementAt.get(segment);
    slots.push(slot ?? MISSING);
    if (slot === undefined) break;
    at = index.assets[at].placed[slot];
    if (at < 0) break;
  }
  return slots;
}
const TILDE = 126;
const NO_SEGMENTS: readonly string[] = [];

/** The ways of one owner's paths, each made ready once however many bindings name it. */
export class PathTable {
  private readonly compiled = new Map<string, CompiledPath>();
  constructor(
    private readonly x: Expansion,
    private readonly sceneInstances: ReadonlyMap<number, number>,
    private readonly owner: number,
  ) {}
  get(path: string): CompiledPath {
    let one = this.compiled.get(path);
    if (!one)
      this.compiled.set(path, (one = new CompiledPath(this.x, this.sceneInstances, path, this.owner)));
    return one;
  }
}

function sceneNumber(index: ProjectIndex, id: string): number {
  const at = index.assetAt.get(id);
  return at !== undefined && index.assets[at].decl.kind === 'scene' ? at : -1;
}

/**
 * The asset that a path names by the text alone, for owners that may have no instance.
 * Returns its number, or {@link MISSING} or {@link BLOCKED}.
 */
export function resolveByText(index: ProjectIndex, standIns: StandIns, owner: number, path: string): number {
  const parsed = parsePath(path);
  let at = parsed.scene === null ? owner : sceneNumber(index, parsed.scene);
  if (at < 0) return MISSING;
  let holder = at;
  let spawned = false;
  let containing = [at];
  for (const segment of parsed.segments) {
    if (segment.charCodeAt(0) === TILDE) {
      const asset = index.assetAt.get(segment.slice(1));
      if (asset === undefined || standIns.placeOf(holder, asset) < 0) return MISSING;
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
