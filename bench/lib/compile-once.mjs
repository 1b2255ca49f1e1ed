import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import {
  audit,
  compileWiring,
  expand,
  indexProject,
  readProjectText,
  WIRING_FILE,
  wiringFiles,
} from '../../packages/core/dist/index.js';
import { createWorld } from '../../packages/runtime/dist/index.js';

const TRIES = 3;
/** As the command line does. */
const nodeSha256 = (parts) => {
  const hash = createHash('sha256');
  for (const part of parts) hash.update(part);
  return hash.digest('hex');
};
const { project } = readProjectText(readFileSync(process.argv[2], 'utf8'));

function timed(run) {
  globalThis.gc?.();
  const begun = performance.now();
  const result = run();
  return { ms: performance.now() - begun, result };
}
const median = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];

const [audits, compilations, parses, loads] = [[], [], [], []];
let size = 0;
let bindings = 0;
for (let i = 0; i < TRIES; i++) {
  audits.push(timed(() => audit(project, { today: '2026-11-29' })).ms);
  const { ms, result: files } = timed(
    () => new Map(wiringFiles(compileWiring(expand(indexProject(project)), { sha256: nodeSha256 }))),
  );
  compilations.push(ms);
  size = [...files.values()].reduce((n, text) => n + text.length, 0);
  const parsed = timed(() => [...files].map(([path, text]) => [path, JSON.parse(text)]));
  parses.push(parsed.ms);
  const head = parsed.result.find(([path]) => path === WIRING_FILE)[1];
  const scenes = parsed.result.filter(([path]) => path !== WIRING_FILE).map(([, scene]) => scene);
  bindings = scenes.reduce((n, s) => n + s.bindings.owner.length, 0);
  loads.push(
    timed(() => {
      const world = createWorld(head);
      return scenes.map((scene) => world.prepare(scene));
    }).ms,
  );
}
const [a, c, p, l] = [audits, compilations, parses, loads].map(median);
console.log(
  [
    `${bindings} expanded bindings, ${(size / 1e6).toFixed(1)} MB of files; medians of ${TRIES}`,
    `audit ${a.toFixed(0)} ms, compile and write as text ${c.toFixed(0)} ms: ${(c / a).toFixed(2)} of an audit`,
    `JSON.parse ${p.toFixed(0)} ms, made ready by the runtime ${l.toFixed(0)} ms: ${(l / p).toFixed(2)} of JSON.parse`,
  ].join('\n'),
);
