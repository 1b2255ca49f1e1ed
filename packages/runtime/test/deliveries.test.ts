import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from '@jest/globals';
import {
  BIND,
  bindingOfEdge,
  buildGraph,
  edgeKind,
  expand,
  indexProject,
  PUBLISH,
  readProjectText,
  type Graph,
  type Project,
} from '@oquel/core';
import { randomProject } from '../../core/test/random-project.js';
import { seeds } from '../../core/test/random.js';
import { createWorld } from '../src/index.js';
import { compiled } from './compiled.js';

/** What the graph says that events of placed things bring, a line each. */
function byGraph(g: Graph): string[] {
  const { x } = g;
  const lines: string[] = [];
  for (let i = 0; i < x.count; i++) {
    if (x.isSpawned(i)) continue;
    x.assetOf(i).events.forEach(({ name }, e) => {
      const node = x.nodeBase[i] + e;
      for (let edge = g.first[node]; edge < g.first[node + 1]; edge++) {
        const { owner, binding } = bindingOfEdge(g, edge)!;
        if (x.isSpawned(owner)) continue;
        const head = g.head[edge];
        const kind = edgeKind(g, edge);
        let to = '';
        if (kind === PUBLISH && 'channel' in binding.to) to = `#${binding.to.channel}`;
        else if (kind === BIND) {
          const receiver = g.instanceOf[head];
          if (x.isSpawned(receiver)) continue;
          const asset = x.assetOf(receiver);
          const action = asset.actions[head - x.nodeBase[receiver] - asset.events.length].name;
          to = `${x.address(receiver)} ${action}`;
        }
        lines.push(`${x.address(i)} ${name} > ${x.address(owner)}/${binding.id} > ${to}`);
      }
    });
  }
  return [...new Set(lines)].sort();
}
/** The same by the runtime, over what was compiled. */
function byRuntime(project: Project, g: Graph): string[] {
  const { wiring, scenes } = compiled(project);
  const world = createWorld(wiring);
  world.load(...scenes);
  const { x } = g;
  const lines: string[] = [];
  for (let i = 0; i < x.count; i++) {
    if (x.isSpawned(i)) continue;
    for (const { name } of x.assetOf(i).events) {
      for (const { owner, binding, to, receivers } of world.wired(x.address(i), name)) {
        const from = `${x.address(i)} ${name} > ${owner}/${binding} > `;
        if (to.startsWith('#')) lines.push(`${from}${to}`);
        else lines.push(...receivers.map((at) => `${from}${at} ${to}`));
      }
    }
  }
  return [...new Set(lines)].sort();
}
/** Starts are left out: they would change the state before it is compared. */
function still(project: Project): Project {
  return {
    ...project,
    assets: project.assets.map((a) => ({
      ...a,
      events: a.events?.map((e) =>
        e.cause.type === 'start' ? { ...e, cause: { type: 'code' as const } } : e,
      ),
      bindings: a.bindings?.map((b) => ({ ...b, bind: undefined })),
    })),
  };
}

const DEMO = fileURLToPath(new URL('../../../demo/storm-over-veyra.json', import.meta.url));

describe('what is compiled and read back', () => {
  it('holds the deliveries of the graph, in the demo', () => {
    const project = still(readProjectText(readFileSync(DEMO, 'utf8')).project);
    const g = buildGraph(expand(indexProject(project)));
    const lines = byRuntime(project, g);
    expect(lines.length).toBeGreaterThan(150);
    expect(lines).toEqual(byGraph(g));
  });
  it('holds the deliveries of the graph, in random projects', () => {
    let all = 0;
    for (let seed = 0; seed < seeds(900); seed++) {
      const project = still(randomProject(seed));
      const x = expand(indexProject(project));
      if (x.count > 600) continue;
      const g = buildGraph(x);
      const lines = byRuntime(project, g);
      expect({ seed, lines }).toEqual({ seed, lines: byGraph(g) });
      all += lines.length;
    }
    expect(all).toBeGreaterThan(1000);
  });
});
