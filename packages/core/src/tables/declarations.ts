import { literalType } from '../project/arg-types.js';
import { action, event, property } from '../project/declared-shapes.js';
import { defaultOfType } from '../project/type-values.js';
import type { Action, EventDecl, Property } from '../project/types.js';
import { parseCause, printCause, printWholeDeclaration } from '../wireline/declaration.js';
import { attempt, parseEffects, printEffect, printType, typeAt } from '../wireline/declared.js';
import { parseDelivery, printDelivery } from '../wireline/delivery.js';
import { guessCause } from '../wireline/guess.js';
import {
  CellFault,
  fieldsCell,
  notationCell,
  textCell,
  valueCell,
  wholeCell,
  yesNoCell,
} from '../exchange/cell.js';
import { part } from './column.js';
import type { Table } from './kind.js';

export const eventTable: Table<EventDecl> = {
  kind: 'events',
  one: 'event',
  many: 'events',
  named: { name: 'name', also: ['event'] },
  ofAsset: true,
  columns: [
    part(
      'cause',
      'cause',
      notationCell((c) => printCause(c).replace(/^when /, ''), parseCause),
      'when',
      'comes about',
    ),
    part('payload', 'payload', fieldsCell, 'carries', 'fields'),
    part('limit', 'limit', wholeCell(0), 'at most', 'times'),
    part('in pause', 'raisedInPause', yesNoCell, 'raised in pause'),
    part('expects a listener', 'expectsListener', yesNoCell, 'expects listener'),
    part(
      'delivery',
      'delivery',
      notationCell(
        (d) => printDelivery(d) || '()',
        (text) => parseDelivery(text.replace(/^\(\)$/, '')),
      ),
    ),
    part('note', 'note', textCell, 'comment', 'remark'),
  ],
  telling: ['cause', 'payload', 'delivery', 'in pause', 'expects a listener'],
  nameOf: (e) => e.name,
  blank: (name) => ({ name }) as EventDecl,
  complete: (e) => {
    (e as Partial<EventDecl>).cause ??= guessCause(e.name);
  },
  shape: event,
  line: (value) => printWholeDeclaration({ kind: 'event', value }),
  all: (index, asset) => index.assets[asset].events,
};

export const actionTable: Table<Action> = {
  kind: 'actions',
  one: 'action',
  many: 'actions',
  named: { name: 'name', also: ['action'] },
  ofAsset: true,
  columns: [
    part('parameters', 'params', fieldsCell, 'params', 'takes'),
    part('expects a sender', 'expectsSender', yesNoCell, 'expects sender'),
    part('while asleep', 'whileAsleep', yesNoCell),
    part(
      'effects',
      'effects',
      (a) =>
        notationCell(
          (effects) => effects.map(printEffect).join('; ') || '()',
          (text) => parseEffects(text.replace(/^\(\)$/, ''), new Set(a.params?.map((p) => p.name))),
        ),
      'does',
    ),
    part('note', 'note', textCell, 'comment', 'remark'),
  ],
  telling: ['parameters', 'effects', 'while asleep', 'expects a sender'],
  nameOf: (a) => a.name,
  blank: (name) => ({ name }),
  shape: action,
  line: (value) => printWholeDeclaration({ kind: 'action', value }),
  all: (index, asset) => index.assets[asset].actions,
};

const typeCell = notationCell<Property['type']>(printType, (text) => attempt(text, typeAt));
export const propertyTable: Table<Property> = {
  kind: 'properties',
  one: 'property',
  many: 'properties',
  named: { name: 'name', also: ['property'] },
  ofAsset: true,
  columns: [
    part('type', 'type', typeCell),
    part('default', 'default', (p) => valueCell((p as Partial<Property>).type), 'value'),
    part('key', 'isKey', yesNoCell, 'is key'),
    part('unique', 'unique', yesNoCell),
  ],
  telling: ['type', 'default'],
  nameOf: (p) => p.name,
  blank: (name) => ({ name }) as Property,
  complete: (p: Partial<Property>, index) => {
    if (p.type === undefined && p.default === undefined)
      throw new CellFault('has neither a type nor a default');
    p.type ??= literalType(p.default!);
    p.default ??= defaultOfType(index, p.type);
  },
  shape: property,
  line: (value) => printWholeDeclaration({ kind: 'property', value }),
  all: (index, asset) => index.assets[asset].properties,
};
