import type { ProjectIndex } from '../project/index-project.js';
import type { Completion, Completions } from './complete.js';
import { printName } from './names.js';

/** What a line that declares something of the project can begin with, and what that is. */
export const PROJECT_BEGINNINGS: readonly (readonly [beginning: string, about: string])[] = [
  ['channel ', 'a meeting point: anyone can publish and listen'],
  ['enum ', 'a fixed list of values'],
  ['key table ', 'keys of a file of the game, such as texts'],
  ['load set ', 'scenes that are loaded together'],
  ['peer ', 'server or client'],
  ['tag ', 'a label for scenes, prefabs and widgets that belong together'],
];

/** Completes the beginning of such a line. Cost: the names that could stand there. */
export function completeProjectLine({ project }: ProjectIndex, beginning: string): Completions {
  const typed = /[\w:-]*$/.exec(beginning)![0];
  const at = beginning.length - typed.length;
  const text = typed.toLowerCase();
  const options = candidates(project, beginning.slice(0, at)).filter(
    (c) => c.text.toLowerCase().startsWith(text) && c.text !== typed,
  );
  return { at, options };
}

function candidates(project: ProjectIndex['project'], before: string): Completion[] {
  if (before.trim() === '') return PROJECT_BEGINNINGS.map(([text, about]) => ({ text, about }));
  if (/^\s*peer\s+[\w-]+\s+$/.test(before)) return ['server', 'client'].map((text) => ({ text, about: '' }));
  const listed = before.slice(before.indexOf(':') + 1);
  const others = (kinds: readonly string[]): Completion[] =>
    project.assets
      .filter((a) => kinds.includes(a.kind) && !listed.split(',').some((one) => one.trim() === a.id))
      .map((a) => ({ text: printName(a.id), about: a.kind }));
  if (/^\s*tag\s+[\w-]+\s*:/.test(before)) return others(['scene', 'prefab', 'widget']);
  if (/^\s*load\s+set\s+[\w-]+\s*:/.test(before)) return others(['scene']);
  if (!/^\s*channel\s.*\([^)]*:\s*$/.test(before)) return [];
  const { enums = [], tables = [] } = project;
  return [
    ...['bool', 'int', 'float', 'string', 'vec2', 'instance'],
    ...enums.map((e) => `enum:${e.name}`),
    ...tables.map((t) => `key:${t.name}`),
  ].map((text) => ({ text, about: 'type' }));
}
