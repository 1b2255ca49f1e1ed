import type { Asset, Binding, Project } from '../../src/index.js';
import { randomProject } from '../random-project.js';
import { Random } from '../random.js';

/** Every other project is full of code bindings that take hold late and let go of others, and of long delays. */
export function projectOf(seed: number): Project {
  const project = randomProject(seed);
  if (seed % 2 === 0) return project;
  const r = new Random(seed + 3_000_000);
  for (const asset of project.assets) {
    for (const b of asset.bindings ?? []) {
      if (r.chance(0.6)) {
        b.origin = 'code';
        b.bind = r.pick(['load', 'start'] as const);
        b.release = r.pick(['own', 'all', 'all', 'never'] as const);
      }
      if (r.chance(0.05)) b.delay = 62;
      // What destroys and starts is what letting go and taking hold hang on.
      if ('event' in b.from && r.chance(0.3)) b.from.event = 'onA';
      if ('action' in b.to && r.chance(0.3)) b.to.action = 'doA';
    }
    const [event] = asset.events ?? [];
    if (event && r.chance(0.4)) event.cause = { type: r.pick(['start', 'code', 'destroyed'] as const) };
    const [action] = asset.actions ?? [];
    if (!action || asset.kind === 'scene') continue;
    const what = r.int(10);
    if (what < 4) action.effects = [{ destroy: true }];
    if (what === 9) {
      action.whileAsleep = true;
      action.effects = [{ wake: true }];
    }
  }
  addWatchers(r, project);
  return project;
}

/** A hub and two that listen to it, each of which can be destroyed and then lets go of its own way. */
function addWatchers(r: Random, project: Project): void {
  const pull = { at: 'S0:hub', event: 'onA' };
  const code = { cause: { type: 'code' as const } };
  const listening = (id: string): Binding => ({
    id,
    from: pull,
    to: { at: '.', action: 'doB' },
    origin: 'code',
    bind: r.pick(['load', 'start'] as const),
    release: r.pick(['own', 'all', 'never'] as const),
  });
  const watcher = (id: string): Asset => ({
    id,
    kind: 'prefab',
    events: [{ name: 'onA', ...code }],
    actions: [{ name: 'doA', effects: [{ destroy: true }] }, { name: 'doB' }],
    bindings: [
      listening('b0'),
      { id: 'b1', from: { at: '.', event: 'onA' }, to: { at: '.', action: 'doA' } },
      listening('b2'),
    ],
  });
  project.assets.push(
    { id: 'Hub', kind: 'prefab', events: [{ name: 'onA', ...code }] },
    watcher('W0'),
    watcher('W1'),
  );
  const scene = project.assets[0];
  scene.placements = [
    { id: 'hub', asset: 'Hub' },
    { id: 'w0', asset: 'W0' },
    { id: 'w1', asset: 'W1' },
    ...(scene.placements ?? []),
  ];
}
