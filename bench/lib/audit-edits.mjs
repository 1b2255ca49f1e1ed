/** Kinds of edits, and how many of a hundred are of each, as a designer makes them. */
const nth = (list, i) => list[(i * 131) % list.length];
const replaced = (list, asset, item) => ({ op: 'replace', list, asset: asset.id, id: item.id, item });
const placement = (scene, i, more) => [
  replaced('placements', scene, { ...nth(scene.placements, i), ...more(nth(scene.placements, i)) }),
];
const LINES = ['east', 'west', 'summit', 'north'];

export const KINDS = [
  // 60: bindings
  ['a binding off or on', 20, ({ scene }, i) => [toggled(scene, nth(scene.bindings, i))]],
  [
    'a delay',
    15,
    ({ scene }, i) => [replaced('bindings', scene, { ...nth(scene.bindings, i), delay: 0.25 + i })],
  ],
  ['another receiver', 15, ({ scene }, i) => [rewired(scene, i)]],
  ['a binding more, or less', 10, ({ scene }, i) => moreOrLess(scene, i)],
  // 25: placements and values
  ['a place', 12, ({ scene }, i) => placement(scene, i, () => ({ at: [i, i] }))],
  [
    'a value',
    6,
    ({ scene }, i) => placement(scene, i, (p) => ({ properties: { ...p.properties, line: nth(LINES, i) } })),
  ],
  ['a sleeper', 2, ({ scene }, i) => placement(scene, i, (p) => ({ asleep: p.asleep !== true }))],
  ['a thing more', 5, ({ scene }, i) => [oneMore(scene, i)]],
  // 10: declarations
  ['what is expected', 6, ({ prefab }, i) => [expecting(prefab, i)]],
  ['an event more', 4, ({ scene }, i) => [withEvent(scene, i)]],
  // 5: others
  ['a note', 3, ({ scene }, i) => [{ op: 'set', asset: scene.id, part: 'note', value: `hour ${i}` }]],
  ['a limit', 2, (_, i) => [{ op: 'set', part: 'policy', value: { maxChain: 4 + (i % 5) } }]],
];

function toggled(scene, item) {
  const { enabled, ...bare } = item;
  return replaced('bindings', scene, enabled === false ? bare : { ...item, enabled: false });
}
/** To the receiver of another binding that does the same to a thing of the same kind. */
function rewired(scene, i) {
  const item = nth(scene.bindings, i);
  const alike = scene.bindings.filter((b) => b.to.action === item.to.action && b.to.at !== item.to.at);
  return replaced(
    'bindings',
    scene,
    alike.length > 0 ? { ...item, to: nth(alike, i).to } : { ...item, delay: i },
  );
}
function moreOrLess(scene, i) {
  const at = { list: 'bindings', asset: scene.id };
  const item = nth(scene.bindings, i);
  if (i % 2 === 0) return [{ op: 'remove', ...at, id: item.id }];
  return [{ op: 'insert', ...at, index: i % 7, item: { ...item, id: `more-${i}` } }];
}
function oneMore(scene, i) {
  const item = { ...nth(scene.placements, i), id: `more-${i}` };
  return { op: 'insert', list: 'placements', asset: scene.id, index: scene.placements.length, item };
}
function expecting(prefab, i) {
  const events = prefab.events.map((e, k) => (k === 0 ? { ...e, expectsListener: i % 2 === 0 } : e));
  return { op: 'set', asset: prefab.id, part: 'events', value: events };
}
function withEvent(scene, i) {
  const value = [{ name: `onHour${i}`, cause: { type: 'use' } }];
  return { op: 'set', asset: scene.id, part: 'events', value };
}
