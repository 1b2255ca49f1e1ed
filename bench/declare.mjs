import { performance } from 'node:perf_hooks';
import { say } from '../scripts/lib/say.mjs';
import { build } from '../scripts/lib/build.mjs';

const ROUNDS = 3;

/** Seconds to make what lines need, and to merge a manifest; and how they grow when there is more. */
export default async function declare() {
  await build();
  const core = await import('../packages/core/dist/index.js');
  say('wire lines that name what is not there, in an empty scene:');
  let before = null;
  for (const count of [50, 5_000, 10_000, 20_000]) {
    const took = median(() => note(core, count));
    say(`  ${String(count).padStart(7)} lines ${took.toFixed(3)} s${ratio(before, took)}`);
    before = took;
  }
  say('a manifest merged into a project that has it already, but for one thing in a hundred:');
  before = null;
  for (const count of [25_000, 50_000, 100_000]) {
    const took = median(() => merge(core, count));
    say(`  ${String(count).padStart(7)} placements ${took.toFixed(3)} s${ratio(before, took)}`);
    before = took;
  }
  say('a table of placements with two properties, brought into an empty project:');
  before = null;
  for (const count of [5_000, 10_000, 20_000, 40_000]) {
    const took = median(() => table(core, count));
    say(`  ${String(count).padStart(7)} rows ${took.toFixed(3)} s${ratio(before, took)}`);
    before = took;
  }
  say('a project of scenes as lines, and read into an empty project:');
  before = null;
  for (const count of [5_000, 10_000, 20_000, 40_000]) {
    const took = median(() => lines(core, count));
    say(`  ${String(count).padStart(7)} bindings ${took.toFixed(3)} s${ratio(before, took)}`);
    before = took;
  }
  return 0;
}

function table({ guessTableMapping, indexProject, readCsvTable, readTable }, count) {
  const rows = Array.from(
    { length: count },
    (_, i) => `yard-${i % 50},lamp-${i},Lamp${i % 20},east,${i % 7}`,
  );
  const text = ['scene,id,of,line,glow', ...rows].join('\n');
  const index = indexProject({ format: 'oquel.project/1', name: 'Mill', assets: [] });
  const begun = performance.now();
  const csv = readCsvTable(text);
  const mapping = guessTableMapping('placements', csv.columns);
  const { changes } = readTable(index, 'placements', csv, { mapping, owner: '' });
  if (changes.length < count) throw new Error('too few changes');
  return performance.now() - begun;
}
function lines({ indexProject, projectLines, readLines }, count) {
  const scenes = Array.from({ length: 100 }, (_, s) => ({
    id: `yard-${s}`,
    kind: 'scene',
    placements: Array.from({ length: count / 200 }, (_, i) => ({
      id: `lamp-${i}`,
      asset: 'Lamp',
      at: [i, s],
    })),
    bindings: Array.from({ length: count / 100 }, (_, i) => ({
      id: `b-${i}`,
      from: { at: `lamp-${i % (count / 200)}`, event: 'onLit' },
      to: { at: `lamp-${(i * 7) % (count / 200)}`, action: 'light' },
      delay: i / 8,
    })),
  }));
  const lamp = {
    id: 'Lamp',
    kind: 'prefab',
    actions: [{ name: 'light' }],
    events: [{ name: 'onLit', cause: { type: 'code' } }],
  };
  const index = indexProject({ format: 'oquel.project/1', name: 'Mill', assets: [lamp, ...scenes] });
  const empty = indexProject({ format: 'oquel.project/1', name: 'Mill', assets: [] });
  const begun = performance.now();
  const read = readLines(empty, '', projectLines(index).text);
  if (read.count !== count || !read.changes) throw new Error('not all came back');
  return performance.now() - begun;
}

function note({ declareFor, indexProject, parseWireLine }, count) {
  const project = {
    format: 'oquel.project/1',
    name: 'Mill',
    assets: [{ id: 'yard', kind: 'scene', size: [60, 40] }],
  };
  const index = indexProject(project);
  const lines = Array.from({ length: count }, (_, i) => {
    const text = `when plate-${i}.onStepped do lamp-${i % 997}.light(colour = "red", how = $force) if $force > ${i % 9}`;
    return parseWireLine(text).binding;
  });
  const begun = performance.now();
  const { changes } = declareFor(index, index.assets[0], lines);
  if (changes.length < count) throw new Error('too few changes');
  return performance.now() - begun;
}

function merge({ changesBetween, mergeManifest, readManifestText }, count) {
  const placements = (shift) =>
    Array.from({ length: count }, (_, i) => ({
      id: `lamp-${i}`,
      asset: 'Lamp',
      at: [i % 1000, Math.floor(i / 1000) + (i % 100 === 0 ? shift : 0)],
      source: { file: 'scenes/yard.ts', line: i + 1 },
    }));
  const manifest = (shift) =>
    JSON.stringify({
      format: 'oquel.declarations/1',
      origin: 'game',
      assets: [
        { id: 'Lamp', kind: 'prefab', actions: [{ name: 'light' }], events: [{ name: 'onLit' }] },
        { id: 'yard', kind: 'scene', placements: placements(shift) },
      ],
    });
  const bindings = Array.from({ length: count }, (_, i) => ({
    id: `b-${i}`,
    from: { at: `lamp-${i}`, event: 'onLit' },
    to: { at: `lamp-${(i * 7) % count}`, action: 'light' },
  }));
  const empty = {
    format: 'oquel.project/1',
    name: 'Mill',
    assets: [{ id: 'yard', kind: 'scene', bindings }],
  };
  const project = mergeManifest(empty, readManifestText(manifest(0)).manifest).project;
  const text = manifest(0.25);
  const begun = performance.now();
  const merged = mergeManifest(project, readManifestText(text).manifest).project;
  if (changesBetween(project, merged).length === 0) throw new Error('nothing differs');
  return performance.now() - begun;
}

function median(run) {
  const times = Array.from({ length: ROUNDS }, run).sort((a, b) => a - b);
  return times[Math.floor(ROUNDS / 2)] / 1000;
}
function ratio(before, took) {
  return before === null ? '' : ` (× ${(took / before).toFixed(1)})`;
}
