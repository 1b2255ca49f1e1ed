import { EventEmitter } from 'eventemitter3';
import { build } from '../scripts/lib/build.mjs';
import { say } from '../scripts/lib/say.mjs';

const RAISES = 200_000;
const TRIES = 7;

/** A hub whose event drives so many actions, with a literal argument. */
function project(fan) {
  const lamps = Array.from({ length: fan }, (_, i) => ({ id: `lamp-${i}`, asset: 'Lamp' }));
  return {
    format: 'oquel.project/1',
    name: 'Fan',
    assets: [
      {
        id: 'hall',
        kind: 'scene',
        placements: [{ id: 'hub', asset: 'Hub' }, ...lamps],
        bindings: lamps.map(({ id }, i) => ({
          id: `b${i}`,
          from: { at: 'hub', event: 'onPulse' },
          to: { at: id, action: 'light' },
          args: { level: 3 },
        })),
      },
      { id: 'Hub', kind: 'prefab', events: [{ name: 'onPulse', cause: { type: 'code' } }] },
      { id: 'Lamp', kind: 'prefab', actions: [{ name: 'light', params: [{ name: 'level', type: 'int' }] }] },
    ],
  };
}
const median = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];

/** A raise with its deliveries by the runtime, beside an event emitter with as many listeners; in turn, in one run. */
export default async function bench() {
  await build();
  const { compileWiring, expand, indexProject } = await import('../packages/core/dist/index.js');
  const { createWorld } = await import('../packages/runtime/dist/index.js');
  for (const fan of [1, 10, 100]) {
    const { project: wiring, scenes } = compileWiring(expand(indexProject(project(fan))));
    let heard = 0;
    const world = createWorld(wiring, { perform: (_, __, args) => (heard += args.level) });
    world.load(...scenes);
    const emitter = new EventEmitter();
    for (let i = 0; i < fan; i++) emitter.on('onPulse', (level) => (heard += level));
    const raises = RAISES / fan;
    const runs = {
      runtime: () => {
        for (let i = 0; i < raises; i++) {
          world.raise('hall:hub', 'onPulse');
          world.advance(0.001);
        }
      },
      emitter: () => {
        for (let i = 0; i < raises; i++) emitter.emit('onPulse', 3);
      },
    };
    const times = { runtime: [], emitter: [] };
    for (let t = 0; t < TRIES; t++) {
      for (const name of ['runtime', 'emitter']) {
        const begun = performance.now();
        runs[name]();
        times[name].push(((performance.now() - begun) * 1e6) / (raises * fan));
      }
    }
    const [ours, theirs] = [median(times.runtime), median(times.emitter)];
    say(
      `fan-out ${String(fan).padStart(3)}: ${ours.toFixed(0)} ns a delivery, emitter ${theirs.toFixed(0)} ns: ${(ours / theirs).toFixed(1)} times${heard > 0 ? '' : '?'}`,
    );
  }
  return 0;
}
