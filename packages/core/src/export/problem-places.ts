import { placesIn, type Region } from '../project/json-places.js';
import type { Problem } from '../project/problem.js';

/** A problem of a document, or of a file of a project's folder, and where in it the problem is. */
export interface PlacedProblem extends Problem {
  /** Of a folder; empty for a document. */
  file: string;
  /** Within the file. */
  pointer: string;
  /** Null where the file cannot be read. */
  place: Pick<Region, 'line' | 'column'> | null;
}

/**
 * Finds the lines and columns of what is wrong with a project: of what is missing, where it should be. `text` gives the files that
 * the problems name, or the document as ''. Cost: one pass over each of these texts.
 */
export function placeProblems(
  problems: readonly Problem[],
  text: (file: string) => string | null,
): PlacedProblem[] {
  const split = problems.map((p) => ({ ...p, ...fileOf(p.pointer) }));
  const places = new Map<string, Map<string, Region>>();
  for (const file of new Set(split.map((p) => p.file))) {
    const whole = text(file);
    if (whole === null) continue;
    const pointers = split.filter((p) => p.file === file).flatMap((p) => upwards(p.pointer));
    places.set(file, isJson(whole) ? placesIn(whole, pointers) : new Map<string, Region>());
  }
  return split.map((p) => {
    const said = /in line (\d+), column (\d+)$/.exec(p.found);
    if (said) return { ...p, place: { line: Number(said[1]), column: Number(said[2]) } };
    const found = places.get(p.file);
    const nearest = upwards(p.pointer).find((pointer) => found?.has(pointer));
    return { ...p, place: nearest === undefined ? null : found!.get(nearest)! };
  });
}

/** A pointer and those of all that it lies in, the nearest first. */
function upwards(pointer: string): string[] {
  const parts = pointer.split('/');
  return parts.map((_, i) => parts.slice(0, parts.length - i).join('/'));
}
/** In a folder a pointer begins with the file: `prefabs/Cabin.json/bindings/0`. */
function fileOf(pointer: string): { file: string; pointer: string } {
  const [, file, rest] = /^([^/].*?\.json)(\/.*)?$/.exec(pointer) ?? [];
  return file === undefined ? { file: '', pointer } : { file, pointer: rest ?? '' };
}
function isJson(text: string): boolean {
  try {
    JSON.parse(text.replace(/^\uFEFF/, ''));
    return true;
  } catch {
    return false;
  }
}
