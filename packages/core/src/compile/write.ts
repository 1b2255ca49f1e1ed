import type { WiringProject, WiringScene } from '@oquel/runtime';
import { byCodeUnits, canonicalJson } from '../project/canonical.js';
import { sceneFile, type CompiledWiring } from './compile.js';

/** The name of the file that is always there. */
export const WIRING_FILE = 'wiring.json';

/**
 * The files of compiled wiring, by path: canonical JSON with a line end. The scenes come first, so that whoever writes them in
 * this order never has a new `wiring.json` beside an old scene. Cost: the length of the texts.
 */
export function* wiringFiles({ project, scenes }: CompiledWiring): Iterable<[path: string, text: string]> {
  for (const scene of scenes) yield [sceneFile(scene.scene), text(scene)];
  yield [WIRING_FILE, text(project)];
}

function text(file: WiringProject | WiringScene): string {
  return `${canonicalText(file)}\n`;
}
/** As {@link canonicalJson}, but columns of numbers and texts, which are millions long, at one go. */
function canonicalText(value: object): string {
  const entries = Object.entries(value)
    .filter(([, v]) => v !== undefined)
    .sort(([a], [b]) => byCodeUnits(a, b));
  return `{${entries.map(([key, v]) => `${JSON.stringify(key)}:${partText(key, v)}`).join(',')}}`;
}
function partText(key: string, value: unknown): string {
  if (key === 'bindings' || key === 'peers') {
    if (!Array.isArray(value) && typeof value === 'object' && value !== null) return canonicalText(value);
  }
  const isColumn = Array.isArray(value) && value.every((v) => typeof v === 'number' || typeof v === 'string');
  return isColumn ? JSON.stringify(value) : canonicalJson(value);
}
