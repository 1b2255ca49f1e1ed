import { explained, label, leaf, list, object, optional, prose, text, type Shape } from './shape.js';
import { FORMAT } from './types.js';
import type * as T from './types.js';
import { asset, assetHead, assetLists } from './asset-shapes.js';
import { manifestEvent } from './declared-shapes.js';
import { source } from './value-shapes.js';
import { channel, enumDecl, keyTable, loadSet, peer } from './list-shapes.js';
import { policy, waiver } from './policy-shapes.js';
import { rehearsal } from './rehearsal-shapes.js';

export const project: Shape<T.Project> = explained(
  object<T.Project>({
    $schema: optional(text),
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
  }),
  {
    $schema: 'Where this schema is to be found, for editors.',
    format: 'The format and its version.',
    name: 'What the project is called.',
    enums: 'Lists of texts that properties and fields may be restricted to.',
    tables: 'Tables of the game, of which only the keys are known here.',
    channels: 'Named meeting points: senders publish to them, listeners hear them.',
    assets: 'Scenes, prefabs and widgets.',
    loadSets: 'Scenes that are loaded together.',
    peers: 'The network peers of the game; the first one keeps the true state of all scenes.',
    policy: 'Thresholds, naming patterns and severities of the audit.',
    waivers: 'Findings that are accepted on purpose.',
    rehearsals: 'Scripted dry runs with expectations.',
  },
);

export const MANIFEST_FORMAT = 'oquel.declarations/1';
/** A manifest: what exists in the game, as `oquel.project/1` says it; an event may leave open what brings it about. */
export const manifest: Shape<T.Manifest> = explained(
  object<T.Manifest>({
    $schema: optional(text),
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
  }),
  {
    $schema: 'Where this schema is to be found, for editors.',
    format: 'The format and its version.',
    origin: 'What wrote it; what it declares is marked with that in a project.',
    assets: 'Scenes, prefabs and widgets with what they declare.',
  },
);
