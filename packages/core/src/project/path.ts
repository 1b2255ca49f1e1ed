/** A path of the document, taken apart. `"summit-refuge:crane-1/~Sled"` has a scene and two segments. */
export interface ParsedPath {
  /** The scene of an absolute path; null for a path from the owner. */
  scene: string | null;
  /** Placement ids, or `~Asset` for a stand-in; none for `.`. */
  segments: readonly string[];
}

/** Takes a path apart. Every text is a path; one that names nothing is found when it is resolved. */
export function parsePath(path: string): ParsedPath {
  if (path === '.') return SELF;
  const colon = path.indexOf(':');
  const scene = colon < 0 ? null : path.slice(0, colon);
  const rest = colon < 0 ? path : path.slice(colon + 1);
  return { scene, segments: rest === '.' ? [] : rest.split('/') };
}
const SELF: ParsedPath = { scene: null, segments: [] };
