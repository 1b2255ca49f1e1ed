import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from '../../scripts/lib/root.mjs';

/** Measures the audit of one document; the best of some rounds, since the machine is noisy. */
const core = await import(join(ROOT, 'packages/core/dist/index.js'));
const text = readFileSync(process.argv[2], 'utf8');

const nth = (list, i) => list[(i * 131) % list.length];
const replaced = (list, asset, item) => ({ op: 'replace', list, asset: asset.id, id: item.id, item });
/** What is edited; by how much of each kind the issue counts is said where the figures are read. */
const KINDS = {
  'a binding': (scene, i) => {
    const item = nth(scene.bindings, i);
    if (i % 3 === 0) return [replaced('bindings', scene, { ...item, enabled: false })];
    if (i % 3 === 1) return [replaced('bindings', scene, { ...item, delay: 0.25 + i })];
    const at = { list: 'bindings', asset: scene.id };
    return [
      { op: 'remove', ...at, id: item.id },
      { op: 'insert', ...at, index: 0, item },
    ];
  },
  'a place': (scene, i) => [replaced('placements', scene, { ...nth(scene.placements, i), at: [i, i] })],
  'a value': (scene, i) => {
    const item = nth(scene.placements, i);
    return [replaced('placements', scene, { ...item, asleep: item.asleep !== true })];
  },
  'a thing more': (scene, i) => {
    const item = { ...nth(scene.placements, i), id: `more-${i}` };
    return [{ op: 'insert', list: 'placements', asset: scene.id, index: scene.placements.length, item }];
  },
  'a declaration': (scene, i) => [
    { op: 'set', asset: scene.id, part: 'events', value: [{ name: `onHour${i}`, cause: { type: 'use' } }] },
  ],
  'a note': (scene, i) => [{ op: 'set', asset: scene.id, part: 'note', value: `hour ${i}` }],
  'a limit': (_scene, i) => [{ op: 'set', part: 'policy', value: { maxChain: 4 + (i % 5) } }],
};

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

/** Edits of one kind after the other, as a designer makes them, spread over the scenes; milliseconds of each, ascending. */
function reaudit() {
  const live = core.LiveAudit.open(project, '2026-11-24');
  const scenes = project.assets.filter((a) => a.kind === 'scene');
  const count = text.length > 20e6 ? 6 : 24;
  return Object.fromEntries(
    Object.entries(KINDS).map(([kind, changesOf]) => {
      const times = [];
      for (let i = 0; i < count; i++) {
        const { id } = scenes[(i * 7) % scenes.length];
        const changes = changesOf(
          live.project.assets.find((a) => a.id === id),
          i,
        );
        const begun = performance.now();
        live.apply(changes);
        times.push(performance.now() - begun);
      }
      return [kind, times.sort((a, b) => a - b)];
    }),
  );
}

const ms = (n) => `${n.toFixed(1)} ms`.padStart(12);
const steps = ['reading (checks)', 'names', 'expansion', 'graph', 'rules'];
const after = steps.reduce((sum, step) => sum + timings[step], 0);
const { metrics: m } = result;
const whole = after - timings['reading (checks)'];
const faster = timings['library components'] / timings['our components'];
const lines = [
  `== ${m.expandedBindings} expanded bindings: ${(text.length / 1e6).toFixed(1)} MB of text, ${m.instances} instances, ` +
    `${m.edges} edges, ${result.findings.length} findings`,
  ...Object.entries(timings).map(([k, v]) => `  ${k.padEnd(20)} ${ms(v)}`),
  `  after parsing        ${ms(after)}  = ${(after / timings['JSON.parse']).toFixed(2)} x JSON.parse`,
  `  components are found ${faster.toFixed(0)} x as fast as by the library (${library} of them)`,
  `  from scratch         ${ms(whole)}  = names, expansion, graph and rules`,
  `  after an edit of ...       median          95th    of from scratch (${edits['a binding'].length} of each)`,
  ...Object.entries(edits).map(([kind, times]) => {
    const median = times[Math.floor(times.length / 2)];
    const late = times[Math.floor(times.length * 0.95)];
    return `    ${kind.padEnd(18)} ${ms(median)}  ${ms(late)}  ${((100 * median) / whole).toFixed(1)} %`;
  }),
  `  peak memory          ${peak.toFixed(0)} MB (the text and the parsed document included)`,
];
console.log(lines.join('\n'));
