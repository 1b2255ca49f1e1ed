import { join } from 'node:path';
import { ROOT } from '../scripts/lib/root.mjs';
import { say } from '../scripts/lib/say.mjs';

/**
 * A rehearsal of a million deliveries: masts in the wind whose brakes answer, each brake changing a value whose event
 * sets a horn. Measured in one run beside a plain loop over as many queued closures, which does nothing else.
 * Goal: under 2 s.
 */
export default async function rehearseBench(args) {
  const core = await import(join(ROOT, 'packages/core/dist/index.js'));
  const masts = 200;
  const brakes = 20;
  const gusts = Number(args[0] ?? 1_000_000) / (masts * (brakes + 1));
  const project = storm(masts, brakes, gusts);
  const x = core.expand(core.indexProject(core.readProject(project).project));
  const runs = { 'without a trace': null, 'with each record handed over': () => {} };
  for (const [how, take] of Object.entries(runs)) {
    const times = [];
    let verdict;
    for (let i = 0; i < 5; i++) {
      const begun = performance.now();
      verdict = core.rehearse(x, project.rehearsals, take, take !== null).verdicts[0];
      times.push(performance.now() - begun);
    }
    times.sort((a, b) => a - b);
    say(
      `${how}: ${verdict.deliveries} deliveries, ${verdict.records} records: median ${times[2].toFixed(0)} ms, ` +
        `worst ${times[4].toFixed(0)} ms (5 times)${verdict.runaway ? ', RAN AWAY' : ''}`,
    );
  }
  say(`yardstick, a queue of as many empty closures: ${yardstick(1_000_000).toFixed(0)} ms`);
  return 0;
}

function yardstick(n) {
  const begun = performance.now();
  const queue = [];
  let sum = 0;
  for (let i = 0; i < n; i++) queue.push(() => (sum += i));
  for (let i = 0; i < queue.length; i++) queue[i]();
  return performance.now() - begun;
}

function storm(masts, brakes, gusts) {
  const placements = [];
  const bindings = [];
  for (let m = 0; m < masts; m++) {
    placements.push({ id: `mast-${m}`, asset: 'WindMast', at: [m, 0] });
    placements.push({ id: `horn-${m}`, asset: 'StormHorn', at: [m, 9] });
    for (let b = 0; b < brakes; b++) {
      const id = `brake-${m}-${b}`;
      placements.push({ id, asset: 'TrackBrake', at: [m, b] });
      bindings.push({
        id: `gust-${m}-${b}`,
        from: { at: `mast-${m}`, event: 'onGust' },
        to: { at: id, action: 'engage' },
        args: { force: { property: 'speed' } },
        delay: 0.001 * (b % 3),
      });
    }
    bindings.push({
      id: `held-${m}`,
      from: { at: `brake-${m}-0`, event: 'onHeld' },
      to: { at: `horn-${m}`, action: 'sound' },
    });
  }
  const every = 0.5;
  return {
    format: 'oquel.project/1',
    name: 'A storm of gusts',
    assets: [
      { id: 'ridge', kind: 'scene', size: [masts, 20], placements, bindings },
      {
        id: 'WindMast',
        kind: 'prefab',
        properties: [{ name: 'speed', type: 'float', default: 12.5 }],
        events: [{ name: 'onGust', cause: { type: 'timer', every } }],
      },
      {
        id: 'TrackBrake',
        kind: 'prefab',
        properties: [{ name: 'held', type: 'bool', default: false }],
        events: [{ name: 'onHeld', cause: { type: 'change', property: 'held' } }],
        actions: [
          { name: 'engage', params: [{ name: 'force', type: 'float' }], effects: [{ toggle: 'held' }] },
        ],
      },
      { id: 'StormHorn', kind: 'prefab', actions: [{ name: 'sound' }] },
    ],
    rehearsals: [
      {
        name: 'a long storm',
        steps: [
          {
            at: every * Math.floor(gusts),
            expect: { at: 'ridge:horn-0', action: 'sound', times: Math.floor(gusts) },
          },
        ],
      },
    ],
  };
}
