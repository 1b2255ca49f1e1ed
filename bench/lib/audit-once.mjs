import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from '../../scripts/lib/root.mjs';

/** Measures the audit of one document; the best of some rounds, since the machine is noisy. */
const core = await import(join(ROOT, 'packages/core/dist/index.js'));
const text = readFileSync(process.argv[2], 'utf8');

const timings = {};
function time(name, run, rounds) {
  let best = Infinity;
  let result;
  globalThis.gc();
  for (let i = 0; i < rounds; i++) {
    const begun = performance.now();
    result = run();
    best = Math.min(best, performance.now() - begun);
  }
  timings[name] = best;
  return result;
}
const rounds = text.length > 20e6 ? 3 : 7;
const parsed = time('JSON.parse', () => JSON.parse(text), rounds);
const { project } = time('reading (checks)', () => core.readProject(parsed), rounds);
const index = time('names', () => core.indexProject(project), rounds);
const x = time('expansion', () => core.expand(index), rounds);
const g = time('graph', () => core.buildGraph(x), rounds);
const result = time('rules', () => core.auditContext(new core.AuditContext(g, '2026-11-24')), rounds);
time('our components', () => core.stronglyConnected(g), rounds);
const peak = process.resourceUsage().maxRSS / 1024;
const { components, toLibrary } = await import('./graph-library.mjs');
const asLibrary = toLibrary(g);
const library = time('library components', () => components(asLibrary), 1);

const ms = (n) => `${n.toFixed(1)} ms`.padStart(12);
const steps = ['reading (checks)', 'names', 'expansion', 'graph', 'rules'];
const after = steps.reduce((sum, step) => sum + timings[step], 0);
const { metrics: m } = result;
const faster = timings['library components'] / timings['our components'];
const lines = [
  `== ${m.expandedBindings} expanded bindings: ${(text.length / 1e6).toFixed(1)} MB of text, ${m.instances} instances, ` +
    `${m.edges} edges, ${result.findings.length} findings`,
  ...Object.entries(timings).map(([k, v]) => `  ${k.padEnd(20)} ${ms(v)}`),
  `  after parsing        ${ms(after)}  = ${(after / timings['JSON.parse']).toFixed(2)} x JSON.parse`,
  `  components are found ${faster.toFixed(0)} x as fast as by the library (${library} of them)`,
  `  peak memory          ${peak.toFixed(0)} MB (the text and the parsed document included)`,
];
console.log(lines.join('\n'));
