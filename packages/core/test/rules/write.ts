/** Short ways to write the projects of the tables below; they are read like any document. */
export type Json = Record<string, unknown>;
export const path = (text: string): [string, string] => [
  text.slice(0, text.lastIndexOf('.')),
  text.slice(text.lastIndexOf('.') + 1),
];
export const end = (text: string, what: 'event' | 'action', more: Json = {}): Json => {
  if (text.startsWith('#')) return { channel: text.slice(1), ...more };
  const [at, name] = path(text);
  return at.startsWith('every ') ? { every: at.slice(6), [what]: name, ...more } : { at, [what]: name };
};
let count = 0;
/** `wire('mast.onGust', 'horn.sound', { limit: 1 })`; `to` adds to the receiving end, `from` to the sending one. */
export const wire = (from: string, to: string, { from: fromMore, to: toMore, ...more }: Json = {}): Json => ({
  id: `b${count++}`,
  from: end(from, 'event', fromMore as Json),
  to: end(to, 'action', toMore as Json),
  ...more,
});
export const event = (name: string, type = 'use', more: Json = {}): Json => {
  const { activators, property, every, ...rest } = more;
  const cause = {
    type,
    ...(activators ? { activators } : {}),
    ...(property ? { property } : {}),
    ...(every ? { every } : {}),
  };
  return { name, cause, ...rest };
};
export const place = (id: string, asset: string, more: Json = {}): Json => ({ id, asset, ...more });
export const asset = (id: string, parts: Json = {}): Json => ({ id, kind: 'prefab', ...parts });
export const scene = (parts: Json = {}, id = 'ridge'): Json => ({ id, kind: 'scene', ...parts });
export const project = (assets: Json[], more: Json = {}): Json => ({
  format: 'oquel.project/1',
  name: 'table',
  assets,
  ...more,
});

export const horn = asset('Horn', {
  events: [event('onSounded', 'raised')],
  actions: [{ name: 'sound', effects: [{ raise: 'onSounded' }] }, { name: 'hush' }],
});
export const mast = asset('Mast', { events: [event('onGust', 'code'), event('onCalm', 'code')] });
export const two = (bindings: Json[], more: Json = {}): Json =>
  project(
    [scene({ placements: [place('mast', 'Mast'), place('horn', 'Horn')], bindings }), mast, horn],
    more,
  );
export const keyed = (isKey = true): Json =>
  asset('Brake', {
    properties: [
      { name: 'line', type: 'int', default: 0, isKey },
      { name: 'force', type: 'float', default: 0 },
    ],
    actions: [
      {
        name: 'engage',
        params: [{ name: 'f', type: 'float', optional: true }],
        effects: [{ set: 'force', to: { param: 'f' } }],
      },
      { name: 'let', effects: [{ set: 'force', to: 0 }] },
    ],
  });

/** Rule, what the row shows, the project, and what is found: class and subject; nothing for a row that almost fires. */
export type Row = [string, string, Json, [string | undefined, Json][]];
