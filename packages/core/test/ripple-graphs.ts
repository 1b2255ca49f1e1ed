import { buildGraph, expand, indexProject, type Graph, type Project } from '../src/index.js';

export const graphOf = (project: Project): Graph => buildGraph(expand(indexProject(project)));

export const bind = (id: string, from: string, to: string, more = {}): object => {
  const [a, event] = from.split('.');
  const [b, action] = to.split('.');
  return { id, from: { at: a, event }, to: { at: b, action }, ...more };
};
