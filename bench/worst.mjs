import { join } from 'node:path';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { ROOT } from '../scripts/lib/root.mjs';
import { say } from '../scripts/lib/say.mjs';
import { build } from '../scripts/lib/build.mjs';
import {
  binding,
  one,
  placed,
  ring,
  sharedKeys,
  areas,
  keysOfTable,
  loadedInPairs,
  wide,
  waivers,
  publishers,
  opposing,
  dangling,
  spawning,
  spawnedPaths,
  renamedPlacements,
  renamedEvents,
  renamedAssets,
} from './lib/worst-projects.mjs';

/** For a doubling; a little more than n log n comes to. */
const GOAL = 2.3;
// What an earlier run has left behind is no part of the next one.
setFlagsFromString('--expose-gc');
const gc = runInNewContext('gc');
const TODAY = '2026-11-28';
const RUNS = 5;

/**
 * Inputs that are made to be as bad as can be for one part each, at sizes n, 2n and 4n: the time of each, and how it grows
 * for a doubling. Times are the best of some runs, so that what else the machine does counts for little. Given names run
 * those alone.
 */
export default async function worstBench(wanted) {
  await build();
  const core = await import(join(ROOT, 'packages/core/dist/index.js'));
  const missed = [];
  for (const [name, n, prepare] of cases(core)) {
    if (wanted.length > 0 && !wanted.includes(name)) continue;
    // The code is compiled at the first size, which is not counted for that.
    for (let i = 0; i < 3; i++) prepare(n)();
    const times = [n, 2 * n, 4 * n].map((size) => {
      const work = prepare(size);
      let best = Infinity;
      for (let i = 0; i < RUNS; i++) {
        gc();
        const begun = performance.now();
        work();
        best = Math.min(best, performance.now() - begun);
      }
      return best;
    });
    // What takes next to no time is noise.
    const grows = [times[1] / times[0], times[2] / times[1]];
    const growth = Math.sqrt(times[2] / times[0]);
    const isFine = growth <= GOAL || times[2] < 20;
    if (!isFine) missed.push(name);
    say(
      `${name.padEnd(30)} ${String(n).padStart(7)}  ${times.map((t) => `${t.toFixed(1)} ms`.padStart(11)).join('')}` +
        `   ${grows.map((g) => g.toFixed(2)).join(', ')} for a doubling, ${growth.toFixed(2)} on the whole${isFine ? '' : '   <- more than the goal'}`,
    );
  }
  say(missed.length === 0 ? `all within ${GOAL}` : `beyond ${GOAL}: ${missed.join(', ')}`);
  return missed.length === 0 ? 0 : 1;
}

/** Name, n, and what is to be timed at a size. */
function cases(core) {
  const {
    audit,
    applyChanges,
    compareProjects,
    indexProject,
    readProjectText,
    freeBindingId,
    IncrementalAudit,
  } = core;
  const audited = (make) => (n) => {
    const project = make(n);
    return () => audit(project, { today: TODAY });
  };
  return [
    ['removals', 20_000, (n) => edit(n, (i) => ({ op: 'remove', id: `b${(i * 7) % n}` }))],
    ['moves', 20_000, (n) => edit(n, (i) => ({ op: 'move', id: `b${(i * 7) % n}`, index: (i * 13) % n }))],
    [
      'insertions in one place',
      20_000,
      (n) => edit(n, (i) => ({ op: 'insert', index: 5, item: binding(`n${i}`) })),
    ],
    [
      'replacements',
      20_000,
      (n) => edit(n, (i) => ({ op: 'replace', id: `b${i}`, item: binding(`b${i}`, 'b') })),
    ],
    ['assets that come', 5_000, manyAssets],
    ['shared keys in many scenes', 500, audited(sharedKeys)],
    ['areas and entries', 2_000, audited(areas)],
    ['events of one scene', 10_000, audited(one)],
    ['chains into a ring', 250, audited(ring)],
    ['scenes loaded in pairs', 1_000, audited(loadedInPairs)],
    ['fields of one payload', 5_000, audited(wide)],
    ['values that are keys', 10_000, audited(keysOfTable)],
    ['waivers of one finding', 20_000, audited(waivers)],
    ['publishers and hearers', 800, audited(publishers)],
    ['publishers beside a direct', 800, audited((n) => publishers(n, true))],
    ['opposing bindings', 400, audited(opposing)],
    ['dangling ends', 5_000, audited(dangling)],
    ['spawning in a chain', 1_000, audited(spawning)],
    ['stand-ins named by paths', 1_000, audited(spawnedPaths)],
    ['renamed placements', 5_000, compared(renamedPlacements)],
    ['renamed events', 2_000, compared(renamedEvents)],
    ['renamed assets', 1_000, compared(renamedAssets)],
    ['free ids', 20_000, freeIds],
    ['catalogue', 20_000, catalogue],
    ['completion', 40_000, completion],
    ['bulk mute', 5_000, bulkMute],
    ['blanks', 4_000_000, broken((n) => ' '.repeat(n))],
    ['a document cut off', 20_000, broken((n) => JSON.stringify(one(n)).slice(0, -2))],
    [
      'a key that stands twice',
      20_000,
      (n) => {
        const text = JSON.stringify(one(n)).replace('"name"', '"name":"x","name"');
        return () => readProjectText(text);
      },
    ],
  ];

  function edit(n, change) {
    const project = one(n);
    const changes = Array.from({ length: n }, (_, i) => ({ list: 'bindings', asset: 'yard', ...change(i) }));
    return () => applyChanges(project, changes);
  }
  function manyAssets(n) {
    const changes = Array.from({ length: n }, (_, i) => ({
      op: 'add',
      index: 3,
      item: { id: `a${i}`, kind: 'prefab' },
    }));
    const project = one(1);
    return () => applyChanges(project, changes);
  }
  function compared(make) {
    return (n) => {
      const [before, after] = make(n);
      return () => compareProjects(before, after);
    };
  }
  function freeIds(n) {
    const { assets } = indexProject(one(1));
    return () => {
      const taken = new Set();
      for (let i = 0; i < n; i++) taken.add(freeBindingId(assets[0], 'onGust', taken));
    };
  }
  function catalogue(n) {
    const project = spawnedPaths(n >> 2);
    return () => core.catalogueOf(indexProject(project));
  }
  function completion(n) {
    const index = indexProject(placed(n));
    return () => core.completeWireLine(index, index.assets[0], 'when lamp');
  }
  function bulkMute(n) {
    const project = one(n);
    const live = IncrementalAudit.open(project, TODAY);
    return () => {
      const all = live.project.assets[0].bindings.map((b) => ({ asset: 'yard', binding: b.id }));
      const index = indexProject(live.project);
      live.apply(core.mutingAll(index, all));
      live.apply(
        live.project.assets[0].bindings.map((b) => ({
          op: 'replace',
          list: 'bindings',
          asset: 'yard',
          id: b.id,
          item: binding(b.id),
        })),
      );
    };
  }
  function broken(make) {
    return (n) => {
      const text = make(n);
      return () => {
        try {
          readProjectText(text);
        } catch {
          return;
        }
        throw new Error('it should not be read');
      };
    };
  }
}
