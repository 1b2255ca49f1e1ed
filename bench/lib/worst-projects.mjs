/** Projects that are made to be as bad as can be for one part of the core each, of size n. */

export const binding = (id, action = 'a') => ({
  id,
  from: { at: '.', event: 'onA' },
  to: { at: '.', action },
});
const project = (assets, more = {}) => ({ format: 'oquel.project/1', name: 'Yard', assets, ...more });
const list = (n, make) => Array.from({ length: n }, (_, i) => make(i));
const use = { type: 'use' };

/** One scene with so many bindings, each of another event so that none meets another. */
export function one(n) {
  return project([
    {
      id: 'yard',
      kind: 'scene',
      events: [{ name: 'onA', cause: use }, ...list(n, (i) => ({ name: `onE${i}`, cause: use }))],
      actions: [{ name: 'a' }, { name: 'b' }],
      bindings: list(n, (i) => ({
        id: `b${i}`,
        from: { at: '.', event: `onE${i}` },
        to: { at: '.', action: 'a' },
      })),
    },
  ]);
}
export function placed(n) {
  return project([
    { id: 'yard', kind: 'scene', placements: list(n, (i) => ({ id: `lamp-${i}`, asset: 'Lamp' })) },
    { id: 'Lamp', kind: 'prefab', events: [{ name: 'onA', cause: use }], actions: [{ name: 'a' }] },
  ]);
}
/** A ring of so many actions of one scene, each set off from outside, with a way out: a chain into a cycle from each. */
export function ring(n) {
  const wire = (id, event, action) => ({ id, from: { at: '.', event }, to: { at: '.', action } });
  const all = list(n + 8, (i) => i);
  return project([
    {
      id: 'yard',
      kind: 'scene',
      events: [
        ...list(n, (i) => ({ name: `onUse${i}`, cause: use })),
        ...all.map((i) => ({ name: `onA${i}`, cause: { type: 'raised' } })),
      ],
      actions: all.map((i) => ({ name: `a${i}`, effects: [{ raise: `onA${i}` }] })),
      bindings: [
        ...list(n, (i) => wire(`r${i}`, `onA${i}`, `a${(i + 1) % n}`)),
        ...list(n, (i) => wire(`u${i}`, `onUse${i}`, `a${i}`)),
        ...list(8, (i) => wire(`x${i}`, `onA${i === 0 ? 0 : n + i - 1}`, `a${n + i}`)),
      ],
    },
  ]);
}
/** A value that one thing in each of many scenes has; every scene is in a load set of its own. */
export function sharedKeys(n) {
  return project(
    [
      ...list(n, (i) => ({ id: `s${i}`, kind: 'scene', placements: [{ id: 'l', asset: 'Lamp' }] })),
      { id: 'Lamp', kind: 'prefab', properties: [{ name: 'line', type: 'int', default: 1, unique: true }] },
    ],
    { loadSets: list(n, (i) => ({ name: `l${i}`, scenes: [`s${i}`] })) },
  );
}
/** A scene that triggers something in each of many others, with a load set for each pair. */
export function loadedInPairs(n) {
  return project(
    [
      {
        id: 'hub',
        kind: 'scene',
        events: [{ name: 'onA', cause: use }],
        bindings: list(n, (i) => ({
          id: `b${i}`,
          from: { at: '.', event: 'onA' },
          to: { at: `s${i}:l`, action: 'a' },
        })),
      },
      ...list(n, (i) => ({ id: `s${i}`, kind: 'scene', placements: [{ id: 'l', asset: 'Lamp' }] })),
      { id: 'Lamp', kind: 'prefab', actions: [{ name: 'a' }] },
    ],
    { loadSets: list(n, (i) => ({ name: `l${i}`, scenes: ['hub', `s${i}`] })) },
  );
}
/** An event with so many fields, and as many arguments that read them. */
export function wide(n) {
  const fields = list(n, (i) => ({ name: `f${i}`, type: 'int' }));
  return project([
    {
      id: 'yard',
      kind: 'scene',
      events: [{ name: 'onA', cause: use, payload: fields }],
      actions: [{ name: 'a', params: fields }],
      bindings: [
        { ...binding('b'), args: Object.fromEntries(fields.map((f) => [f.name, { payload: f.name }])) },
      ],
    },
  ]);
}
/** A key table, and as many values that are keys of it. */
export function keysOfTable(n) {
  return project(
    [
      {
        id: 'yard',
        kind: 'scene',
        placements: list(n, (i) => ({ id: `l${i}`, asset: 'Lamp', properties: { colour: `c${n - 1 - i}` } })),
      },
      { id: 'Lamp', kind: 'prefab', properties: [{ name: 'colour', type: 'key:Colours', default: 'c0' }] },
    ],
    { tables: [{ name: 'Colours', keys: list(n, (i) => `c${i}`) }] },
  );
}
/** Many areas and many entries, none of which is covered. */
export function areas(n) {
  return project([
    {
      id: 'yard',
      kind: 'scene',
      placements: [
        ...list(n, (i) => ({ id: `m${i}`, asset: 'Mat', at: [i * 4, 0] })),
        ...list(n, (i) => ({ id: `e${i}`, asset: 'Mark', at: [i * 4 + 2, 0], entry: true })),
      ],
      bindings: list(n, (i) => ({
        id: `b${i}`,
        from: { at: `m${i}`, event: 'onEntered' },
        to: { at: `m${i}`, action: 'a' },
      })),
    },
    {
      id: 'Mat',
      kind: 'prefab',
      area: { circle: 1 },
      events: [{ name: 'onEntered', cause: { type: 'area-enter' } }],
      actions: [{ name: 'a' }],
    },
    { id: 'Mark', kind: 'prefab' },
  ]);
}
export function waivers(n) {
  return project([{ id: 'yard', kind: 'scene' }], {
    waivers: list(n, () => ({ fingerprint: '0123456789abcdef', reason: 'r', by: 'b' })),
  });
}
/** Everybody publishes twice on one channel, which everybody hears. */
export function publishers(n, direct = false) {
  return project(
    [
      {
        id: 'yard',
        kind: 'scene',
        events: list(n, (i) => ({ name: `onE${i}`, cause: use })),
        actions: list(n, (i) => ({ name: `a${i}` })),
        bindings: [
          ...list(n, (i) => ({ id: `p${i}`, from: { at: '.', event: `onE${i}` }, to: { channel: 'bell' } })),
          ...list(n, (i) => ({ id: `q${i}`, from: { at: '.', event: `onE${i}` }, to: { channel: 'gong' } })),
          ...list(n, (i) => ({ id: `h${i}`, from: { channel: 'bell' }, to: { at: '.', action: `a${i}` } })),
          ...(direct
            ? list(n, (i) => ({
                id: `d${i}`,
                from: { at: '.', event: `onE${i}` },
                to: { at: '.', action: 'a0' },
              }))
            : []),
        ],
      },
    ],
    { channels: [{ name: 'bell' }, { name: 'gong' }] },
  );
}
export function opposing(n) {
  return project([
    {
      id: 'yard',
      kind: 'scene',
      properties: [{ name: 'level', type: 'int', default: 0 }],
      events: [{ name: 'onA', cause: use }],
      actions: list(n, (i) => ({ name: `a${i}`, effects: [{ set: 'level', to: i }] })),
      bindings: list(n, (i) => binding(`b${i}`, `a${i}`)),
    },
  ]);
}
export function dangling(n) {
  return project([
    {
      id: 'yard',
      kind: 'scene',
      placements: list(n, (i) => ({ id: `lamp-${i}`, asset: 'Lamp' })),
      events: [{ name: 'onA', cause: use }],
      bindings: list(n, (i) => ({
        id: `b${i}`,
        from: { at: '.', event: 'onA' },
        to: { at: `lmp-${i}`, action: 'a' },
      })),
    },
    { id: 'Lamp', kind: 'prefab', actions: [{ name: 'a' }] },
  ]);
}
/** A chain of prefabs that spawn one another; a few of them are placed. */
export function spawning(n) {
  return project([
    { id: 'yard', kind: 'scene', placements: list(4, (i) => ({ id: `p${i}`, asset: `P${i}` })) },
    ...list(n, (i) => ({
      id: `P${i}`,
      kind: 'prefab',
      actions: [{ name: 'go', effects: [{ spawn: `P${i + 1}` }] }],
    })),
  ]);
}
export function spawnedPaths(n) {
  return project([
    {
      id: 'yard',
      kind: 'scene',
      events: [{ name: 'onA', cause: use }],
      placements: [{ id: 'p0', asset: 'P0' }],
      bindings: list(n, (i) => ({
        id: `b${i}`,
        from: { at: '.', event: 'onA' },
        to: { at: `p0/~P${i + 1}`, action: 'go' },
      })),
    },
    ...list(n + 1, (i) => ({
      id: `P${i}`,
      kind: 'prefab',
      actions: [{ name: 'go', effects: [{ spawn: `P${i + 1}` }] }],
    })),
  ]);
}
export function renamedPlacements(n) {
  const made = (stem) =>
    project([
      { id: 'yard', kind: 'scene', placements: list(n, (i) => ({ id: `${stem}${i}`, asset: 'Lamp' })) },
      { id: 'Lamp', kind: 'prefab' },
    ]);
  return [made('a'), made('b')];
}
export function renamedEvents(n) {
  const made = (stem) =>
    project([{ id: 'yard', kind: 'scene', events: list(n, (i) => ({ name: `${stem}${i}`, cause: use })) }]);
  return [made('onA'), made('onB')];
}
export function renamedAssets(n) {
  const made = (stem) =>
    project(
      list(n, (i) => ({
        id: `${stem}${i}`,
        kind: 'prefab',
        events: [
          { name: `onE${i}`, cause: use },
          { name: 'onA', cause: use },
        ],
      })),
    );
  return [made('a'), made('b')];
}
