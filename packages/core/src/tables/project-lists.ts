import { channel, enumDecl, keyTable, loadSet, peer } from '../project/list-shapes.js';
import type { Channel, EnumDecl, KeyTable, LoadSet, Peer } from '../project/types.js';
import { printProjectLine } from '../wireline/print-project-line.js';
import { fieldsCell, listCell, textCell, wordCell } from '../exchange/cell.js';
import { part } from './column.js';
import type { Table } from './kind.js';

export const channelTable: Table<Channel> = {
  kind: 'channels',
  one: 'channel',
  many: 'channels',
  named: { name: 'channel', also: ['name'] },
  ofAsset: false,
  columns: [
    part('payload', 'payload', fieldsCell, 'carries', 'fields'),
    part('note', 'note', textCell, 'comment', 'remark'),
  ],
  telling: ['channel'],
  nameOf: (c) => c.name,
  blank: (name) => ({ name }),
  shape: channel,
  line: (value) => printProjectLine({ kind: 'channel', value }),
  all: (index) => index.project.channels ?? [],
};

export const enumTable: Table<EnumDecl> = {
  kind: 'enums',
  one: 'enum',
  many: 'enums',
  named: { name: 'enum', also: ['name'] },
  ofAsset: false,
  columns: [part('values', 'values', listCell('a value'), 'value')],
  telling: ['enum'],
  list: 'values',
  nameOf: (e) => e.name,
  blank: (name) => ({ name, values: [] }),
  shape: enumDecl,
  line: (value) => printProjectLine({ kind: 'enum', value }),
  all: (index) => index.project.enums ?? [],
};

export const keyTableTable: Table<KeyTable> = {
  kind: 'tables',
  one: 'key table',
  many: 'key tables',
  named: { name: 'key table', also: ['table', 'name'] },
  ofAsset: false,
  columns: [part('keys', 'keys', listCell('a key'), 'key')],
  telling: ['key table', 'keys'],
  list: 'keys',
  nameOf: (t) => t.name,
  blank: (name) => ({ name, keys: [] }),
  shape: keyTable,
  line: (value) => printProjectLine({ kind: 'table', value }),
  all: (index) => index.project.tables ?? [],
};

export const loadSetTable: Table<LoadSet> = {
  kind: 'loadSets',
  one: 'load set',
  many: 'load sets',
  named: { name: 'load set', also: ['name'] },
  ofAsset: false,
  columns: [part('scenes', 'scenes', listCell('a scene'), 'scene')],
  telling: ['load set', 'scenes'],
  list: 'scenes',
  nameOf: (l) => l.name,
  blank: (name) => ({ name, scenes: [] }),
  shape: loadSet,
  line: (value) => printProjectLine({ kind: 'loadSet', value }),
  all: (index) => index.project.loadSets ?? [],
};

export const peerTable: Table<Peer> = {
  kind: 'peers',
  one: 'peer',
  many: 'peers',
  named: { name: 'peer', also: ['name'] },
  ofAsset: false,
  columns: [part('role', 'role', wordCell('server', 'client'))],
  telling: ['peer', 'role'],
  nameOf: (p) => p.name,
  blank: (name) => ({ name }) as Peer,
  complete: (p: Partial<Peer>) => {
    p.role ??= 'client';
  },
  shape: peer,
  line: (value) => printProjectLine({ kind: 'peer', value }),
  all: (index) => index.project.peers ?? [],
};
