import type { WiringProject, WiringScene } from '@oquel/runtime';
import { canonicalParts } from '../project/canonical.js';
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
  return `${[...canonicalParts(file)].join('')}\n`;
}
