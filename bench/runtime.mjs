import { EventEmitter } from 'eventemitter3';
import { build } from '../scripts/lib/build.mjs';
import { say } from '../scripts/lib/say.mjs';

const RAISES = 200_000;
const TRIES = 21;

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

/**
 * A raise with its deliveries by the runtime, beside an event emitter with as many listeners; in turn, in one run. The
 * runtime is asked by the event that a game holds, by instance and by address, with a hundred raises to a frame, and with a frame for each raise.
 */
export default async function bench() {
  await build();
  const { compileWiring, expand, indexProject } = await import('../packages/core/dist/index.js');
  const { createWorld } = await import('../packages/runtime/dist/index.js');
  for (const fan of [1, 10, 100]) {
    const { project: wiring, scenes } = compileWiring(expand(indexProject(project(fan))));
    let heard = 0;
    const world = createWorld(wiring, { perform: (_, __, args) => (heard += args.level) });
    world.load(...scenes);
    const hub = world.instance('hall:hub');
    const pulse = world.event('hall:hub', 'onPulse');
    const emitter = new EventEmitter();
    for (let i = 0; i < fan; i++) emitter.on('onPulse', (level) => (heard += level));
    const raises = RAISES / fan;
    const raising = (of, perFrame) => () => {
      for (let i = 0; i < raises; i += perFrame) {
        for (let k = 0; k < perFrame; k++) world.raise(of, 'onPulse');
        world.advance(0.001);
      }
    };
    const raisingIt = () => {
      for (let i = 0; i < raises; i += 100) {
        for (let k = 0; k < 100; k++) pulse.raise();
        world.advance(0.001);
      }
    };
    const runs = {
      'its event': raisingIt,
      'by instance': raising(hub, 100),
      'by address': raising('hall:hub', 100),
      'a frame each': raising(hub, 1),
      emitter: () => {
        for (let i = 0; i < raises; i++) emitter.emit('onPulse', 3);
      },
    };
    const times = {};
    for (let t = 0; t < TRIES; t++) {
      for (const [name, run] of Object.entries(runs)) {
        const begun = performance.now();
        run();
        (times[name] ??= []).push(((performance.now() - begun) * 1e6) / (raises * fan));
      }
    }
    const theirs = median(times.emitter);
    const medians = Object.entries(times).map(([name, list]) => {
      const ours = median(list);
      const ratio = name === 'emitter' ? '' : ` (${(ours / theirs).toFixed(1)} times)`;
      return `${name} ${ours.toFixed(0)} ns${ratio}`;
    });
    say(`fan-out ${String(fan).padStart(3)}, a delivery: ${medians.join(', ')}${heard > 0 ? '' : '?'}`);
  }
  return 0;
}
