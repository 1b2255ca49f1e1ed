import { asset } from '../project/asset-shapes.js';
import { MARKS, type Mark } from '../project/marks.js';
import type { AssetKind } from '../project/types.js';
import { parseArea, parseSize, printArea, printSize } from '../wireline/area.js';
import { printAssetHead, type AssetHead } from '../wireline/asset-line.js';
import { listCell, notationCell, textCell, wordCell, yesNoCell } from '../exchange/cell.js';
import { part } from './column.js';
import type { Table } from './kind.js';

/** Scenes, prefabs and widgets, without what they hold. */
export const assetTable: Table<AssetHead> = {
  kind: 'assets',
  one: 'asset',
  many: 'assets',
  named: { name: 'id', also: ['asset', 'name', 'scene', 'prefab', 'widget'] },
  ofAsset: false,
  columns: [
    part('kind', 'kind', wordCell<AssetKind>('scene', 'prefab', 'widget')),
    part('tags', 'tags', listCell('a tag')),
    part('mark', 'mark', wordCell<Mark>(...MARKS)),
    part('always loaded', 'persistent', yesNoCell, 'persistent'),
    part('runs in pause', 'runsInPause', yesNoCell),
    part('exists on', 'existsOn', wordCell('all', 'authority')),
    part('size', 'size', notationCell(printSize, parseSize)),
    part('area', 'area', notationCell(printArea, parseArea)),
    part('note', 'note', textCell, 'comment', 'remark'),
  ],
  telling: ['kind', 'tags'],
  nameOf: (a) => a.id,
  blank: (id) => ({ id }) as AssetHead,
  complete: (a: Partial<AssetHead>) => {
    a.kind ??= 'prefab';
  },
  shape: asset,
  line: printAssetHead,
  all: (index) => index.assets.map((a) => a.decl),
};
