import type { Project } from './types.js';

/** The scenes that are loaded with a load set: its own, and those that always are; null if it is not there. Linear in assets. */
export function scenesLoadedWith(project: Project, loadSet: string): string[] | null {
  const set = project.loadSets?.find((s) => s.name === loadSet);
  if (!set) return null;
  const always = project.assets.filter((a) => a.kind === 'scene' && a.persistent === true);
  return [...new Set([...set.scenes, ...always.map((a) => a.id)])];
}
