import { readdirSync, readFileSync } from 'node:fs';
import { readProject } from '../src/index.js';

export const load = (path: string): unknown =>
  JSON.parse(readFileSync(new URL(path, import.meta.url), 'utf8'));
export const demo = readProject(load('../../../demo/storm-over-veyra.json')).project;
export const TODAY = '2026-11-24';
export const caseProjects = readdirSync(new URL('./cases/', import.meta.url)).map(
  (f) => readProject((load(`./cases/${f}`) as { project: unknown }).project).project,
);
