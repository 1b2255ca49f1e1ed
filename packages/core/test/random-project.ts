import type {
  Action,
  Arg,
  Asked,
  Asset,
  Binding,
  BindingFrom,
  BindingTo,
  Cause,
  Effect,
  EventDecl,
  KeyExpr,
  Placement,
  Project,
  Value,
} from '../src/index.js';
import { Random } from './random.js';

const EVENTS = ['onA', 'onB', 'onC'];
const ACTIONS = ['doA', 'doB', 'doC'];
const PROPERTIES = ['line', 'open'];
const CHANNELS = ['tension', 'weather', 'lost'];
const VALUES: Value[] = [1, 2, 'east', true];

/** A small project that is sound in form and full of every kind of wiring, right and wrong. */
export function randomProject(seed: number): Project {
  const r = new Random(seed);
  const parts = Array.from({ length: 2 + r.int(3) }, (_, i) => `P${i}`);
  const scenes = r.chance(0.6) ? ['S0', 'S1'] : ['S0'];
  const ids = [...scenes, ...parts];
  const assets = ids.map((id) => randomAsset(r, id, scenes.includes(id), parts, scenes));
  // A source of its own, so that all else stays as it was without it.
  setInside(new Random(seed + 7919), assets);
  setConditions(new Random(seed + 104729), assets);
  const project: Project = {
    format: 'oquel.project/1',
    name: `random ${seed}`,
    channels: [{ name: 'tension' }, { name: 'weather' }],
    assets,
  };
  if (r.chance(0.5)) {
    project.policy = { maxFanOut: r.int(4), maxChain: r.int(4), maxReach: r.int(6), maxTangle: r.int(4) };
  }
  if (r.chance(0.5)) {
    project.peers = [
      { name: 'host', role: 'server' },
      { name: 'guest', role: 'client' },
    ];
  }
  if (r.chance(0.5))
    project.loadSets = r.list(2, (i) => ({ name: `l${i}`, scenes: scenes.filter(() => r.chance(0.7)) }));
  if (r.chance(0.2)) project.waivers = [{ fingerprint: 'f', reason: 'r', by: 'b', until: '2026-01-01' }];
  setPairs(new Random(seed + 1299709), project);
  return project;
}

/** What chance alone seldom makes: two things that switch, drive or contradict each other, tables, patterns of names. */
function setPairs(r: Random, project: Project): void {
  if (r.chance(0.2)) {
    project.tables = [{ name: 'lines', keys: ['east', 'west'] }];
    const { properties = [] } = r.pick(project.assets);
    for (const p of properties) if (p.name === 'line') p.type = r.pick(['key:lines', 'key:lost']);
    for (const { params = [] } of r.pick(project.assets).actions ?? [])
      for (const p of params) p.type = 'key:lines';
  }
  if (r.chance(0.2))
    project.policy = { ...project.policy, names: { action: r.pick(['^do[AB]', '^a']), asset: '[0P]$' } };
  for (const scene of project.assets) if (scene.kind === 'scene' && r.chance(0.5)) setPair(r, project, scene);
}
function setPair(r: Random, project: Project, scene: Asset): void {
  const partOf = (id: string): Asset | undefined =>
    project.assets.find((a) => a.id === id && a.kind !== 'scene');
  const { placements = [], bindings = [] } = scene;
  const standing = placements.filter((p) => partOf(p.asset));
  if (standing.length < 2) return;
  const [one, other] = [r.pick(standing), r.pick(standing)];
  const [a, b] = [partOf(one.asset)!, partOf(other.asset)!];
  const events = a.events!;
  const bind = (id: string, from: Placement, event: string, to: Placement, action: string): Binding => {
    const binding: Binding = { id, from: { at: from.id, event }, to: { at: to.id, action } };
    bindings.push(binding);
    return binding;
  };
  r.pick<() => void>([
    () => {
      a.events = ['enter', 'leave'].map((way) => ({
        name: way === 'enter' ? 'onA' : 'onB',
        cause: { type: `area-${way}` as 'area-enter' | 'area-leave' },
      }));
      b.actions![0].effects = [{ set: 'line', to: r.pick(VALUES) }];
      bind('enters', one, 'onA', other, b.actions![0].name);
    },
    () => {
      for (let i = 0; i < 2 + r.int(2); i++) {
        bind(`forth${i}`, one, events[0].name, other, r.pick(b.actions!).name);
        bind(`back${i}`, other, b.events![0].name, one, r.pick(a.actions!).name);
      }
      project.policy = { ...project.policy, maxTangle: r.int(3) };
    },
    () => {
      b.actions = [1, 2].map((to, i) => ({ name: ACTIONS[i], effects: [{ set: 'line', to }] }));
      for (const { name } of b.actions) bind(`sets-${name}`, one, events[0].name, other, name);
    },
    () => {
      events[0].cause = { type: 'start' };
      const late = bind('late', one, events[0].name, other, b.actions![0].name);
      Object.assign(late, { origin: 'code', bind: 'start', release: 'own' });
    },
    () => {
      events[0].delivery = { to: { only: ['operator'] } };
      project.peers ??= [{ name: 'host', role: 'server' }];
      bind('told', one, events[0].name, other, b.actions![0].name);
    },
  ])();
}

/** Values for what stands inside placements, right and wrong. */
function setInside(r: Random, assets: Asset[]): void {
  for (const p of assets.flatMap((a) => a.placements ?? [])) {
    if (!r.chance(0.2)) continue;
    p.inside = { [r.pick(['p0', 'p1', 'p0/p1', 'lost'])]: { [r.pick(PROPERTIES)]: r.pick(VALUES) } };
  }
}

/** Questions of bindings and effects, with every test; and raises that begin again. */
function setConditions(r: Random, assets: Asset[]): void {
  const asked = (): Asked =>
    r.pick<() => Asked>([
      () => r.pick(VALUES),
      () => ({ not: r.pick(VALUES) }),
      () => ({ oneOf: r.list(3, () => r.pick(VALUES)) }),
      () => ({ under: r.int(3) }),
      () => ({ atMost: r.int(3) }),
      () => ({ over: r.int(3) }),
      () => ({ atLeast: r.int(3) }),
    ])();
  for (const { bindings = [], actions = [] } of assets) {
    for (const b of bindings) {
      if (!r.chance(0.25)) continue;
      b.if = r.list(2, () =>
        r.chance(0.5)
          ? { payload: r.pick(['n', 'line', 'lost']), is: asked() }
          : { property: r.pick([...PROPERTIES, 'lost']), is: asked() },
      );
      // Two questions of one value, which may exclude each other.
      if (r.chance(0.4)) b.if = [0, 1].map(() => ({ property: 'line', is: asked() }));
    }
    // All that hear one event ask the same field, so that some of its values may have no answer.
    if (r.chance(0.3)) {
      for (const b of bindings)
        if ('event' in b.from && b.from.event === 'onA') b.if = [{ payload: 'n', is: r.chance(0.5) }];
    }
    for (const e of actions.flatMap((a) => a.effects ?? [])) {
      if (r.chance(0.2)) {
        e.when = r.chance(0.6)
          ? { property: r.pick([...PROPERTIES, 'lost']), is: asked() }
          : { param: r.pick(['n', 'lost']), is: asked() };
      }
      if ('raise' in e && (e.delay ?? 0) > 0 && r.chance(0.5)) e.restart = true;
    }
  }
}

function randomAsset(r: Random, id: string, scene: boolean, parts: string[], scenes: string[]): Asset {
  const asset: Asset = {
    id,
    ...(r.chance(0.2) ? { runsInPause: true } : {}),
    ...(r.chance(0.2) ? { existsOn: 'authority' as const } : {}),
    ...(r.chance(0.3) ? { area: { circle: 2 } } : {}),
    ...(r.chance(0.3) ? { tags: ['wet'] } : {}),
    ...(scene && r.chance(0.2) ? { persistent: true } : {}),
    kind: scene ? 'scene' : r.chance(0.8) ? 'prefab' : 'widget',
    properties: [
      { name: 'line', type: 'int', default: r.pick(VALUES), isKey: true, unique: r.chance(0.3) },
      ...(r.chance(0.5) ? [{ name: 'open', type: 'bool' as const, default: false }] : []),
    ],
    events: EVENTS.slice(0, 1 + r.int(3)).map((name) => randomEvent(r, name)),
    actions: ACTIONS.slice(0, 1 + r.int(3)).map((name) => randomAction(r, name, parts)),
  };
  // Mostly downwards, so that loops of containing happen but do not rule.
  const below = scene ? parts : parts.filter((p) => p > id || r.chance(0.08));
  asset.placements = r.list(scene ? 4 : 2, (i) => randomPlacement(r, `p${i}`, below, id));
  asset.bindings = r.list(scene ? 7 : 3, (i) => randomBinding(r, `b${i}`, asset, parts, scenes));
  return asset;
}

function randomEvent(r: Random, name: string): EventDecl {
  const cause = r.pick<Cause>([
    { type: 'use' },
    { type: 'raised' },
    { type: 'start' },
    { type: 'destroyed' },
    { type: 'change', property: r.pick(PROPERTIES) },
    { type: 'code' },
    { type: 'area-enter', activators: r.pick([['#wet'], ['P0', 'nobody'], []]) },
    { type: 'area-leave' },
    { type: 'timer', every: 2 },
  ]);
  return {
    name,
    cause,
    ...(r.chance(0.15) ? { limit: 1 } : {}),
    ...(r.chance(0.3) ? { expectsListener: true } : {}),
    ...(r.chance(0.3) ? { payload: [{ name: 'n', type: r.pick(['int', 'string', 'bool'] as const) }] } : {}),
    ...(r.chance(0.15) ? { raisedInPause: true } : {}),
    ...(r.chance(0.3)
      ? {
          delivery: {
            ...(r.chance(0.5)
              ? { send: r.pick(['nobody', { only: ['operator'] }, { except: ['authority'] }]) }
              : {}),
            ...(r.chance(0.5)
              ? { to: r.pick(['raiser', { only: ['others'] }, { except: ['operator'] }]) }
              : {}),
            reliable: r.chance(0.5),
          },
        }
      : {}),
  };
}

function randomAction(r: Random, name: string, parts: string[]): Action {
  return {
    name,
    ...(r.chance(0.3) ? { expectsSender: true } : {}),
    ...(r.chance(0.3) ? { whileAsleep: true } : {}),
    ...(r.chance(0.3) ? { params: [{ name: 'n', type: r.pick(['int', 'float', 'string'] as const) }] } : {}),
    effects: r.list(2, () => randomEffect(r, parts)),
  };
}
function randomEffect(r: Random, parts: string[]): Effect {
  const guard = r.chance(0.2) ? { everyNth: 2 } : {};
  const property = r.pick(PROPERTIES);
  return r.pick<() => Effect>([
    () => ({ ...guard, raise: r.pick(EVENTS), ...(r.chance(0.3) ? { delay: 0.5 } : {}) }),
    () => ({ ...guard, raise: r.pick(EVENTS) }),
    () => ({ ...guard, set: property, to: r.pick(VALUES) }),
    () => ({ ...guard, toggle: property }),
    () => ({ ...guard, wake: true }),
    () => ({ ...guard, destroy: true }),
    () => ({ ...guard, spawn: r.chance(0.9) ? r.pick(parts) : 'Nothing' }),
  ])();
}

function randomPlacement(r: Random, id: string, below: string[], owner: string): Placement {
  const asset = below.length > 0 && r.chance(0.95) ? r.pick(below) : r.pick(['Nothing', owner]);
  return {
    id,
    asset,
    ...(r.chance(0.2) ? { asleep: true } : {}),
    ...(r.chance(0.4) ? { properties: { line: r.pick(VALUES) } } : {}),
    ...(r.chance(0.2) ? { muted: [`b${r.int(3)}`] } : {}),
    ...(r.chance(0.5) ? { at: [r.int(5), r.int(5)] as [number, number] } : {}),
    ...(r.chance(0.2) ? { entry: true } : {}),
    ...(r.chance(0.2) ? { authority: r.pick(['host', 'guest', 'lost']) } : {}),
    ...(r.chance(0.2) ? { operator: 'guest' } : {}),
  };
}

function randomBinding(r: Random, id: string, owner: Asset, parts: string[], scenes: string[]): Binding {
  const from: BindingFrom = r.chance(0.25)
    ? { channel: r.pick(CHANNELS), ...randomKey(r) }
    : { at: randomPath(r, owner, parts, scenes), event: r.pick(EVENTS) };
  let to: BindingTo;
  if (!('channel' in from) && r.chance(0.3)) to = { channel: r.pick(CHANNELS), ...randomKey(r) };
  else if (r.chance(0.3)) {
    to = {
      every: r.chance(0.95) ? r.pick([...parts, ...scenes]) : 'Nothing',
      action: r.pick(ACTIONS),
      ...(r.chance(0.4) ? { within: 'project' as const } : {}),
      ...(r.chance(0.2) ? { pick: 'first' as const } : {}),
      ...(r.chance(0.3) ? { spawned: true } : {}),
      ...(r.chance(0.3) ? { match: { property: r.pick(PROPERTIES), equals: randomKeyExpr(r) } } : {}),
    };
  } else to = { at: randomPath(r, owner, parts, scenes), action: r.pick(ACTIONS) };
  return {
    id,
    from,
    to,
    ...(r.chance(0.2) ? { limit: 1 + r.int(3) } : {}),
    ...(r.chance(0.2) ? { delay: 0.25 } : {}),
    ...(r.chance(0.1) ? { enabled: false } : {}),
    ...(r.chance(0.3)
      ? { args: { n: r.pick<Arg>([1, 'x', { payload: 'n' }, { property: 'line' }, { sender: true }]) } }
      : {}),
    ...(r.chance(0.2)
      ? {
          origin: 'code' as const,
          bind: r.pick(['load', 'start'] as const),
          release: r.pick(['own', 'all', 'never'] as const),
        }
      : {}),
  };
}
function randomKey(r: Random): { key?: KeyExpr } {
  return r.chance(0.5) ? { key: randomKeyExpr(r) } : {};
}
function randomKeyExpr(r: Random): KeyExpr {
  return r.chance(0.5) ? r.pick(VALUES) : { property: r.pick(PROPERTIES) };
}
function randomPath(r: Random, owner: Asset, parts: string[], scenes: string[]): string {
  const own = (owner.placements ?? []).map((p) => p.id);
  const segment = (): string =>
    own.length > 0 && r.chance(0.7) ? r.pick(own) : r.pick(['p0', 'p1', `~${r.pick(parts)}`, 'nowhere']);
  if (r.chance(0.2)) return '.';
  const path = r.chance(0.3) ? `${segment()}/${r.pick(['p0', 'p1', `~${r.pick(parts)}`])}` : segment();
  return r.chance(0.1) ? `${r.pick(scenes)}:${r.chance(0.3) ? '.' : path}` : path;
}
