import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import {
  compileWiring,
  expand,
  indexProject,
  reachableFrom,
  readProjectText,
  wiringFiles,
  type Project,
} from '@oquel/core';
import { defineConfig, type Plugin } from 'vite';
import type { Level } from './src/level.js';

const DEMO = fileURLToPath(new URL('../storm-over-veyra.json', import.meta.url));
const OUT = fileURLToPath(new URL('../../apps/web/dist/play', import.meta.url));
const SCENE = 'valley-station';
const LOAD_SET = 'ascent';

/** The game's page, with what `oquel compile` writes beside it, and the level as a level editor would give it. */
export default defineConfig({
  root: fileURLToPath(new URL('.', import.meta.url)),
  base: './',
  plugins: [gameFiles()],
  build: { outDir: OUT, emptyOutDir: true },
});

function gameFiles(): Plugin {
  return {
    name: 'game-files',
    generateBundle() {
      const { project } = readProjectText(readFileSync(DEMO, 'utf8'));
      const scenes = project.loadSets!.find((s) => s.name === LOAD_SET)!.scenes;
      const compiled = compileWiring(expand(indexProject(project)), { scenes });
      for (const [path, source] of wiringFiles(compiled))
        this.emitFile({ type: 'asset', fileName: `wiring/${path}`, source });
      this.emitFile({ type: 'asset', fileName: 'level.json', source: JSON.stringify(levelOf(project)) });
    },
  };
}

function levelOf(project: Project): Level {
  const index = indexProject(project);
  const scene = index.assets[index.assetAt.get(SCENE)!];
  const things = reachableFrom(index, scene).filter((t) => t.depth > 0);
  const entry = things.find((t) => t.placement?.entry === true)!;
  return {
    scene: SCENE,
    size: scene.decl.size as [number, number],
    start: entry.at,
    player: { address: `${SCENE}:${entry.path}`, asset: entry.asset.decl.id },
    things: things
      .filter((t) => t.placement?.entry !== true)
      .map((t) => ({
        address: `${SCENE}:${t.path}`,
        asset: t.asset.decl.id,
        isWidget: t.asset.decl.kind === 'widget',
        at: t.at,
        ...(t.asset.decl.area || t.placement?.area ? { area: t.placement?.area ?? t.asset.decl.area } : {}),
      })),
  };
}
