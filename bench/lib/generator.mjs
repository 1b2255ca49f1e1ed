/**
 * Makes large projects that look like real ones: cable lines with stations along them, each station a scene of cabins,
 * winches, brakes, masts, gauges, horns and beacons, wired as the demo is, with hubs, channels keyed by line, and now
 * and then a fault. The same seed and size give the same document, byte for byte.
 */
export function generate(expandedBindings, seed = 1) {
  const r = random(seed);
  const assets = [...prefabs()];
  let expanded = 0;
  for (let s = 0; expanded < expandedBindings; s++) {
    const scene = makeScene(r, s, Math.min(4000, expandedBindings - expanded));
    assets.unshift(scene.asset);
    expanded += scene.expanded;
  }
  return {
    format: 'oquel.project/1',
    name: `Generated, ${expandedBindings} expanded bindings`,
    enums: [{ name: 'Line', values: ['east', 'west', 'summit', 'north'] }],
    tables: [{ name: 'Announcements', keys: ['announce.storm', 'announce.wind'] }],
    channels: [
      { name: 'tension', payload: [{ name: 'tension', type: 'float' }] },
      { name: 'weather', payload: [] },
    ],
    assets,
    loadSets: [{ name: 'all', scenes: assets.filter((a) => a.kind === 'scene').map((a) => a.id) }],
    peers: [
      { name: 'host', role: 'server' },
      { name: 'guest', role: 'client' },
    ],
  };
}

function random(seed) {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const LINES = ['east', 'west', 'summit', 'north'];

/** A scene of groups along a line: mast, brakes, winch, cabin, gauge, horn, beacon, mat; the groups hang on hubs. */
function makeScene(r, number, wanted) {
  const placements = [];
  const bindings = [];
  const pick = (list) => list[Math.floor(r() * list.length)];
  let expanded = 0;
  const place = (id, asset, x, y, more = {}) =>
    placements.push({ id, asset, at: [Math.round(x * 10) / 10, Math.round(y * 10) / 10], ...more });
  const bind = (from, event, to, action, more = {}) => {
    bindings.push({ id: `b${bindings.length}`, from: { at: from, event }, to: { at: to, action }, ...more });
    expanded++;
  };
  for (let g = 0; expanded < wanted; g++) {
    const line = pick(LINES);
    const own = { properties: { line } };
    const [x, y] = [20 + 40 * (g % 12), 20 + 40 * Math.floor(g / 12)];
    place(`mast-${g}`, 'WindMast', x, y, own);
    place(`brake-${g}a`, 'TrackBrake', x + 8, y + 4, own);
    place(`brake-${g}b`, 'TrackBrake', x + 14, y + 6, own);
    place(`winch-${g}`, 'Winch', x + 20, y + 12, own);
    place(`cabin-${g}`, 'Cabin', x + 5, y + 20, { properties: { line, number: number * 100000 + g } });
    place(`gauge-${g}`, 'RopeGauge', x + 12, y + 24, own);
    place(`horn-${g}`, 'StormHorn', x + 24, y + 20);
    place(`beacon-${g}`, 'Beacon', x + 28, y + 28, r() < 0.1 ? { asleep: true } : {});
    place(`mat-${g}`, 'StepMat', x + 2, y + 26);
    expanded += 8; // a cabin's own, its heater's and a tile's
    const force = { args: { force: { payload: 'speed' } } };
    bind(`mast-${g}`, 'onGust', `brake-${g}a`, 'engage', force);
    bind(`mast-${g}`, 'onGust', `brake-${g}b`, 'engage', r() < 0.05 ? {} : force);
    bind(`mast-${g}`, 'onGust', r() < 0.01 ? 'horn-lost' : `horn-${g}`, 'sound', { limit: 1 });
    bind(`brake-${g}a`, 'onEngaged', `winch-${g}`, 'slow');
    bind(`winch-${g}`, 'onSlowed', `cabin-${g}`, 'hold', r() < 0.3 ? { delay: 0.5 } : {});
    bind(`cabin-${g}`, 'onDoorsClosed', `winch-${g}`, 'run', { delay: 1 });
    bind(`mat-${g}`, 'onStepped', `cabin-${g}`, 'closeDoors', { delay: 2 });
    bind(`mat-${g}`, 'onStepped', `beacon-${g}`, 'light');
    bind(`mat-${g}`, 'onLeft', `beacon-${g}`, 'dim');
    bind(`winch-${g}`, 'onStopped', `beacon-${g}`, 'blink');
    if (g > 0) bind(`winch-${g - (g % 7)}`, 'onStopped', `winch-${g}`, r() < 0.02 ? 'stop' : 'slow');
    bindings.push({
      id: `b${bindings.length}`,
      from: { at: `gauge-${g}`, event: 'onSlack' },
      to: { channel: 'tension', key: { property: 'line' } },
      args: { tension: { payload: 'tension' } },
    });
    expanded++;
    if (g % 20 === 0) {
      bindings.push({
        id: `b${bindings.length}`,
        from: { at: `mast-${g}`, event: 'onCalm' },
        to: {
          every: 'TrackBrake',
          action: 'release',
          match: { property: 'line', equals: { property: 'line' } },
        },
      });
      expanded++;
    }
    if (g % 100 === 0) {
      place(`board-${g}`, 'LineTile', x, y + 30, { properties: { line: `${line}` } });
      expanded += 1;
    }
  }
  return {
    expanded,
    asset: { id: `station-${number}`, kind: 'scene', size: [520, 4000], placements, bindings },
  };
}

function prefabs() {
  const line = { name: 'line', type: 'enum:Line', default: 'east', isKey: true };
  const self = (id, event, at, action, more = {}) => ({
    id,
    from: { at: '.', event },
    to: { at, action },
    ...more,
  });
  const raise = (name, event, more = {}) => ({ name, effects: [{ raise: event }], ...more });
  const cause = (name, type, more = {}) => ({ name, cause: { type }, ...more });
  return [
    {
      id: 'Cabin',
      kind: 'prefab',
      properties: [
        line,
        { name: 'number', type: 'int', default: 0, unique: true },
        { name: 'moving', type: 'bool', default: false },
      ],
      events: [cause('onDocked', 'code'), cause('onDoorsClosed', 'raised')],
      actions: [
        { name: 'hold', effects: [{ set: 'moving', to: false }] },
        { name: 'go', effects: [{ set: 'moving', to: true }] },
        raise('closeDoors', 'onDoorsClosed'),
        { name: 'openDoors' },
      ],
      placements: [{ id: 'heater', asset: 'Heater', at: [0, 1] }],
      bindings: [
        self('a', 'onDoorsClosed', 'heater', 'warm'),
        self('b', 'onDoorsClosed', '.', 'go', { delay: 1.5 }),
        self('c', 'onDocked', 'heater', 'cool'),
        self('d', 'onDocked', '.', 'hold'),
        self('e', 'onDocked', '.', 'openDoors', { delay: 0.5 }),
      ],
    },
    {
      id: 'Heater',
      kind: 'prefab',
      properties: [{ name: 'on', type: 'bool', default: false }],
      events: [{ name: 'onHot', cause: { type: 'change', property: 'on' } }],
      actions: [
        { name: 'warm', effects: [{ set: 'on', to: true }] },
        { name: 'cool', effects: [{ set: 'on', to: false }] },
      ],
      placements: [{ id: 'lamp', asset: 'Lamp', at: [0, 0] }],
      bindings: [self('x', 'onHot', 'lamp', 'glow'), self('y', 'onHot', 'lamp', 'count', { limit: 1 })],
    },
    { id: 'Lamp', kind: 'prefab', actions: [{ name: 'glow' }, { name: 'count' }] },
    {
      id: 'Winch',
      kind: 'prefab',
      properties: [line],
      events: [cause('onSlowed', 'raised'), cause('onStopped', 'raised'), cause('onStarted', 'raised')],
      actions: [raise('run', 'onStarted'), raise('slow', 'onSlowed'), raise('stop', 'onStopped')],
    },
    {
      id: 'TrackBrake',
      kind: 'prefab',
      properties: [line, { name: 'force', type: 'float', default: 0 }],
      events: [cause('onEngaged', 'raised')],
      actions: [
        {
          name: 'engage',
          params: [{ name: 'force', type: 'float' }],
          effects: [{ set: 'force', to: { param: 'force' } }, { raise: 'onEngaged' }],
        },
        { name: 'release', effects: [{ set: 'force', to: 0 }] },
      ],
    },
    {
      id: 'WindMast',
      kind: 'prefab',
      properties: [line],
      events: [
        cause('onGust', 'code', { payload: [{ name: 'speed', type: 'float' }] }),
        cause('onCalm', 'code'),
      ],
    },
    {
      id: 'RopeGauge',
      kind: 'prefab',
      properties: [line],
      events: [cause('onSlack', 'code', { payload: [{ name: 'tension', type: 'float' }] })],
    },
    { id: 'StormHorn', kind: 'prefab', actions: [{ name: 'sound' }] },
    {
      id: 'Beacon',
      kind: 'prefab',
      properties: [{ name: 'lit', type: 'bool', default: false }],
      actions: [
        { name: 'light', effects: [{ set: 'lit', to: true }] },
        { name: 'dim', effects: [{ set: 'lit', to: false }] },
        { name: 'blink', effects: [{ toggle: 'lit' }], whileAsleep: true },
      ],
    },
    {
      id: 'StepMat',
      kind: 'prefab',
      area: { rect: [4, 3] },
      events: [cause('onStepped', 'area-enter'), cause('onLeft', 'area-leave')],
    },
    {
      id: 'LineTile',
      kind: 'widget',
      properties: [line],
      actions: [{ name: 'show', params: [{ name: 'tension', type: 'float' }] }],
      bindings: [
        {
          id: 'reading',
          from: { channel: 'tension', key: { property: 'line' } },
          to: { at: '.', action: 'show' },
          args: { tension: { payload: 'tension' } },
        },
      ],
    },
  ];
}
