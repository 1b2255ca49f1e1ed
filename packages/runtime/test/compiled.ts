import { compileWiring, expand, indexProject, WIRING_FILE, wiringFiles, type Project } from '@oquel/core';
import type { WiringProject, WiringScene } from '../src/index.js';

export interface CompiledFiles {
  wiring: WiringProject;
  scenes: WiringScene[];
}
/** A project compiled, written down and read back. */
export function compiled(project: Project): CompiledFiles {
  const files = new Map(wiringFiles(compileWiring(expand(indexProject(project)))));
  const wiring = JSON.parse(files.get(WIRING_FILE)!) as WiringProject;
  const scenes = wiring.scenes.map(({ file }) => JSON.parse(files.get(file)!) as WiringScene);
  return { wiring, scenes };
}
