import { LIMITS } from '../limits.js';
import { binding } from './binding-shapes.js';
import { action, event, property } from './declared-shapes.js';
import { value, fromGame } from './value-shapes.js';
import { MARKS } from './marks.js';
import { name } from './name.js';
import { PICTURE_NAME } from './pictures.js';
import {
  atLeast,
  bool,
  byKey,
  explained,
  list,
  mapOf,
  matching,
  named,
  object,
  oneOf,
  optional,
  prose,
  text,
  vec2,
  type Shape,
} from './shape.js';
import type * as T from './types.js';

const area = byKey<T.Area>({
  circle: object<{ circle: number }>({ circle: atLeast(0, 'a radius in metres') }),
  rect: object<{ rect: T.Vec2 }>({ rect: vec2 }),
  polygon: object<{ polygon: T.Vec2[] }>({ polygon: list(vec2, undefined, 0, LIMITS.document.corners) }),
});

export const placement: Shape<T.Placement> = named(
  'placement',
  'One use of a prefab or widget inside an asset.',
  explained(
    object<T.Placement>({
      id: name,
      asset: text,
      at: optional(vec2),
      area: optional(area),
      asleep: optional(bool),
      properties: optional(mapOf(value)),
      inside: optional(mapOf(mapOf(value))),
      muted: optional(list(text)),
      authority: optional(text),
      operator: optional(text),
      entry: optional(bool),
      note: optional(prose),
      ...fromGame,
    }),
    {
      id: 'Its name, once in the asset.',
      asset: 'The id of what is placed.',
      at: 'Where it stands, in metres.',
      area: 'Its zone, in place of the asset’s.',
      asleep: 'It begins asleep.',
      properties: 'Values that differ from the defaults.',
      inside: 'Values of what stands inside of it, by path.',
      muted: 'Ids of bindings of the asset that do not act here.',
      authority: 'The peer that keeps it.',
      operator: 'The peer whose input steers it.',
      entry: 'Players start here.',
    },
  ),
);

/** What assets of a project and of a manifest declare alike, in the order of the format. */
export const assetHead = {
  id: name,
  kind: oneOf('scene', 'prefab', 'widget'),
  tags: optional(list(text)),
  note: optional(prose),
  mark: optional(oneOf(...MARKS)),
  persistent: optional(bool),
  runsInPause: optional(bool),
  existsOn: optional(oneOf('all', 'authority')),
  size: optional(vec2),
  backdrop: optional(
    object<T.Backdrop>({
      picture: matching(
        'the file name of a picture, such as "0123456789abcdef0123456789abcdef.png"',
        PICTURE_NAME,
      ),
      at: vec2,
      size: vec2,
      dim: optional(atLeast(0)),
    }),
  ),
  area: optional(area),
  properties: optional(list(property, 'name')),
};
export const assetLists = {
  actions: optional(list(action, 'name')),
  placements: optional(list(placement, 'id')),
};
export const asset: Shape<T.Asset> = named(
  'asset',
  'A scene, a prefab or a widget.',
  explained(
    object<T.Asset>({
      ...assetHead,
      events: optional(list(event, 'name')),
      ...assetLists,
      bindings: optional(list(binding, 'id')),
      ...fromGame,
    }),
    {
      id: 'Its name, once in the project.',
      properties: 'What its instances have.',
      events: 'What its instances can say.',
      actions: 'What its instances can do.',
      placements: 'What stands in it, in order.',
      bindings: 'What it binds, in running order.',
    },
  ),
);
