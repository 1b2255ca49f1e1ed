import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from '../../scripts/lib/root.mjs';
import { KINDS } from './audit-edits.mjs';

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
const result = time('facts and rules', () => core.auditGraph(g, '2026-11-24'), rounds);
time('our components', () => core.stronglyConnected(g), rounds);
const edits = reaudit();
const { components, toLibrary } = await import('./graph-library.mjs');
const asLibrary = toLibrary(g);
const library = time('library components', () => components(asLibrary), 1);

/**
 * Edits of each kind, spread over the scenes and prefabs, and as many that are tried and taken back; milliseconds by kind.
 * Then edits of all kinds in the proportion in which they are made.
 */
function reaudit() {
  const audit = core.IncrementalAudit.open(project, '2026-11-24');
  const edit = (changesOf, at, i, perform = (changes) => audit.apply(changes)) => {
    const { assets } = audit.project;
    const [scenes, prefabs] = [
      assets.filter((a) => a.kind === 'scene'),
      assets.filter((a) => a.kind !== 'scene' && (a.events ?? []).length > 0),
    ];
    const changes = changesOf(
      { scene: scenes[(at * 7) % scenes.length], prefab: prefabs[at % prefabs.length] },
      i,
    );
    const begun = performance.now();
    perform(changes);
    return performance.now() - begun;
  };
  const count = text.length > 20e6 ? 10 : 30;
  const kinds = KINDS.map(([kind, , changesOf]) => {
    const times = [];
    const tries = [];
    // By turns, each in another scene: whoever comes second to one finds it warm.
    for (let i = 0; i < 2 * count; i++) {
      if (i % 2 === 0) tries.push(edit(changesOf, i, i >> 1, (changes) => audit.trying(changes, () => null)));
      else times.push(edit(changesOf, i, i >> 1));
    }
    return [kind, sorted(times), sorted(tries)];
  });
  const mixed = [];
  for (let i = 0; i < 100; i++) mixed.push(edit(kindAt((i * 37) % 100), 100 + i, 100 + i));
  return { kinds, mixed: sorted(mixed) };
}
function kindAt(n) {
  let sum = 0;
  for (const [, share, changesOf] of KINDS) if ((sum += share) > n) return changesOf;
}
function sorted(times) {
  return times.sort((a, b) => a - b);
}
const median = (times) => times[Math.floor(times.length / 2)];
const late = (times) => times[Math.floor(times.length * 0.95)];

const ms = (n) => `${n.toFixed(1)} ms`.padStart(12);
const steps = ['reading (checks)', 'names', 'expansion', 'graph', 'facts and rules'];
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
  `  after an edit of ...          median          95th         worst    of from scratch   tried and taken back (median)`,
  ...[...edits.kinds, ['all kinds, mixed', edits.mixed, null]].map(([kind, times, tries]) => {
    const share = `${((100 * median(times)) / whole).toFixed(2)} %`.padStart(12);
    const taken = tries ? `${ms(median(tries))} = ${(median(tries) / median(times)).toFixed(1)} x` : '';
    return `    ${kind.padEnd(22)} ${ms(median(times))}  ${ms(late(times))}  ${ms(times.at(-1))} ${share}       ${taken}`;
  }),
];
console.log(lines.join('\n'));
