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
const edits = reaudit();
const peak = process.resourceUsage().maxRSS / 1024;
const { components, toLibrary } = await import('./graph-library.mjs');
const asLibrary = toLibrary(g);
const library = time('library components', () => components(asLibrary), 1);

/** One edit after the other, as a designer makes them: a binding muted, given another delay, removed, brought back. */
function reaudit() {
  const live = new core.LiveAudit(project, '2026-11-24');
  const scenes = project.assets.filter((a) => a.kind === 'scene');
  const times = [];
  for (let i = 0; i < (text.length > 20e6 ? 12 : 60); i++) {
    const scene = scenes[(i * 7) % scenes.length];
    const item = live.project.assets.find((a) => a.id === scene.id).bindings[
      (i * 131) % scene.bindings.length
    ];
    const at = { list: 'bindings', asset: scene.id };
    const changes = [
      [{ op: 'replace', ...at, id: item.id, item: { ...item, enabled: false } }],
      [{ op: 'replace', ...at, id: item.id, item: { ...item, delay: 0.25 } }],
      [
        { op: 'remove', ...at, id: item.id },
        { op: 'insert', ...at, index: 0, item },
      ],
    ][i % 3];
    const begun = performance.now();
    live.apply(changes);
    times.push(performance.now() - begun);
  }
  return times.sort((a, b) => a - b);
}

const ms = (n) => `${n.toFixed(1)} ms`.padStart(12);
const steps = ['reading (checks)', 'names', 'expansion', 'graph', 'rules'];
const after = steps.reduce((sum, step) => sum + timings[step], 0);
const { metrics: m } = result;
const whole = after - timings['reading (checks)'];
const median = edits[Math.floor(edits.length / 2)];
const faster = timings['library components'] / timings['our components'];
const lines = [
  `== ${m.expandedBindings} expanded bindings: ${(text.length / 1e6).toFixed(1)} MB of text, ${m.instances} instances, ` +
    `${m.edges} edges, ${result.findings.length} findings`,
  ...Object.entries(timings).map(([k, v]) => `  ${k.padEnd(20)} ${ms(v)}`),
  `  after parsing        ${ms(after)}  = ${(after / timings['JSON.parse']).toFixed(2)} x JSON.parse`,
  `  components are found ${faster.toFixed(0)} x as fast as by the library (${library} of them)`,
  `  audit after an edit  ${ms(median)} median, ${ms(edits[Math.floor(edits.length * 0.95)])} at the 95th percentile (${edits.length} edits of bindings)`,
  `                       = ${((100 * median) / whole).toFixed(1)} % of names, expansion, graph and rules anew`,
  `  peak memory          ${peak.toFixed(0)} MB (the text and the parsed document included)`,
];
console.log(lines.join('\n'));
