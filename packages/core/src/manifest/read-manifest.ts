import { manifest as manifestShape } from '../project/document.js';
import { parseJson } from '../project/json-text.js';
import { BrokenDocument } from '../project/problem.js';
import { readProject } from '../project/read.js';
import { Reading } from '../project/shape.js';
import { FORMAT, type Manifest } from '../project/types.js';

export interface ReadManifest {
  manifest: Manifest;
  /** JSON pointers of properties that the format does not know; nothing comes of them. */
  unknown: string[];
}

/**
 * Reads a manifest from its text. A whole project document is one too: its declarations and placements count, and its
 * origin is `origin` or else its name. Linear.
 * @throws BrokenDocument as {@link readProjectText} does
 */
export function readManifestText(text: string, origin?: string): ReadManifest {
  const { value } = parseJson(text);
  const format =
    typeof value === 'object' && value !== null ? (value as { format?: unknown }).format : undefined;
  if (format === FORMAT) {
    const { project, unknown } = readProject(value);
    const { enums, tables, channels, assets, loadSets, peers } = project;
    const own = { format: 'oquel.declarations/1', origin: origin ?? project.name } as const;
    return { manifest: withoutGaps({ ...own, enums, tables, channels, assets, loadSets, peers }), unknown };
  }
  const reading = new Reading();
  manifestShape.check(value, reading);
  if (reading.problems.length > 0) throw new BrokenDocument(reading.problems);
  const manifest = value as Manifest;
  return { manifest: origin === undefined ? manifest : { ...manifest, origin }, unknown: reading.unknown };
}
function withoutGaps(manifest: Manifest): Manifest {
  return Object.fromEntries(
    Object.entries(manifest).filter(([, part]) => part !== undefined),
  ) as unknown as Manifest;
}

/** Whether a text means to be a manifest. */
export function isManifestText(text: string): boolean {
  return /"format"\s*:\s*"oquel\.declarations\//.test(text.slice(0, 10_000));
}
