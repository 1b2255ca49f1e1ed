import { label, leaf, list, object, optional, prose, type Shape } from './shape.js';
import { FORMAT } from './types.js';
import type * as T from './types.js';
import { asset, assetHead, assetLists, manifestEvent, source } from './asset-shapes.js';
import { channel, enumDecl, keyTable, loadSet, peer } from './list-shapes.js';
import { policy, waiver } from './policy-shapes.js';
import { rehearsal } from './rehearsal-shapes.js';

export const project: Shape<T.Project> = object<T.Project>({
  format: leaf(`"${FORMAT}"`, { const: FORMAT }, (v) => v === FORMAT),
  name: label,
  note: optional(prose),
  enums: optional(list(enumDecl, 'name')),
  tables: optional(list(keyTable, 'name')),
  channels: optional(list(channel, 'name')),
  assets: list(asset, 'id'),
  loadSets: optional(list(loadSet, 'name')),
  peers: optional(list(peer, 'name')),
  policy: optional(policy),
  waivers: optional(list(waiver)),
  rehearsals: optional(list(rehearsal, 'name')),
});

export const MANIFEST_FORMAT = 'oquel.declarations/1';
/** A manifest: what exists in the game, as `oquel.project/1` says it; an event may leave open what brings it about. */
export const manifest: Shape<T.Manifest> = object<T.Manifest>({
  format: leaf(`"${MANIFEST_FORMAT}"`, { const: MANIFEST_FORMAT }, (v) => v === MANIFEST_FORMAT),
  origin: label,
  enums: optional(list(enumDecl, 'name')),
  tables: optional(list(keyTable, 'name')),
  channels: optional(list(channel, 'name')),
  assets: optional(
    list(
      object<T.ManifestAsset>({
        ...assetHead,
        events: optional(list(manifestEvent, 'name')),
        ...assetLists,
        source: optional(source),
      }),
      'id',
    ),
  ),
  loadSets: optional(list(loadSet, 'name')),
  peers: optional(list(peer, 'name')),
});
