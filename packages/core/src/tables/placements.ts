import { placement } from '../project/asset-shapes.js';
import { assetInside } from '../project/inside.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Placement, Type } from '../project/types.js';
import { own, put } from '../util/own.js';
import { parseArea, printArea } from '../wireline/area.js';
import { printPlacement } from '../wireline/placement.js';
import {
  CellFault,
  listCell,
  notationCell,
  numberCell,
  textCell,
  valueCell,
  yesNoCell,
} from '../exchange/cell.js';
import { part, type Column } from './column.js';
import type { Table } from './kind.js';

export const placementTable: Table<Placement> = {
  kind: 'placements',
  one: 'placement',
  many: 'placements',
  named: { name: 'id', also: ['placement', 'name'] },
  ofAsset: true,
  columns: [
    part('of', 'asset', textCell, 'prefab', 'widget', 'places'),
    coordinate('x', 0),
    coordinate('y', 1),
    part('area', 'area', notationCell(printArea, parseArea)),
    part('asleep', 'asleep', yesNoCell),
    part('entry', 'entry', yesNoCell),
    part('authority', 'authority', textCell),
    part('operator', 'operator', textCell),
    part('muted', 'muted', listCell('the id of a binding')),
    part('note', 'note', textCell, 'comment', 'remark'),
  ],
  telling: ['of', 'x', 'y'],
  nameOf: (p) => p.id,
  blank: (id) => ({ id }) as Placement,
  complete: (p: Partial<Placement>) => {
    if (p.asset === undefined) throw new CellFault('does not say which prefab or widget is placed');
    if (p.at && p.at.some(Number.isNaN)) {
      if (p.at.every(Number.isNaN)) delete p.at;
      else throw new CellFault('has x or y, but not both');
    }
  },
  shape: placement,
  line: printPlacement,
  all: (index, asset) => index.assets[asset].placements,
};

/** One of the two metres; the other is not a number as long as only one is known. */
function coordinate(name: 'x' | 'y', i: 0 | 1): Column<Placement> {
  return {
    name,
    also: [],
    print: (p) => (p.at ? String(p.at[i]) : ''),
    read: (cell, p) => {
      p.at = p.at ? [...p.at] : [Number.NaN, Number.NaN];
      p.at[i] = cell === '' ? Number.NaN : numberCell.read(cell);
    },
  };
}

/** The heading of the column of a property: `.line`, or `lamp.line` for what stands inside under that path. */
export function headingOf(path: string, property: string): string {
  return `${path}.${property}`;
}
/** The path and the property that a heading names; null if it is none of a property. */
export function propertyOfHeading(heading: string): { path: string; property: string } | null {
  const found = /^((?:[A-Za-z0-9_~][A-Za-z0-9_~/-]*)?)\.([A-Za-z_][A-Za-z0-9_-]*)$/.exec(heading);
  return found && { path: found[1], property: found[2] };
}
/** A column of values of one property; `meant` says which one is meant by that name of a placed asset. */
export function valueColumn(
  index: ProjectIndex,
  heading: string,
  meant: (of: string, property: string) => string = (_of, property) => property,
): Column<Placement> | null {
  const named = propertyOfHeading(heading);
  if (!named) return null;
  const { path } = named;
  const nameIn = (p: Placement): string => (path === '' ? meant(p.asset, named.property) : named.property);
  const typeIn = (p: Placement): Type | undefined => typeOf(index, p.asset, path, nameIn(p));
  return {
    name: heading,
    also: [],
    print: (p) => {
      const value = own(path === '' ? p.properties : own(p.inside, path), nameIn(p));
      return value === undefined ? '' : valueCell(typeIn(p)).print(value);
    },
    read: (cell, p) => {
      const value = cell === '' ? undefined : valueCell(typeIn(p)).read(cell);
      if (path === '') p.properties = changed(p.properties, nameIn(p), value);
      else {
        const inner = changed(own(p.inside, path), nameIn(p), value);
        p.inside = changed(p.inside, path, inner);
      }
      if (p.properties === undefined) delete p.properties;
      if (p.inside === undefined) delete p.inside;
    },
  };
}
/** A map with something else under a name; undefined if it is empty then, and was not before. */
function changed<V>(
  map: Record<string, V> | undefined,
  name: string,
  value: V | undefined,
): Record<string, V> | undefined {
  if (value === undefined && (map === undefined || !Object.hasOwn(map, name))) return map;
  const next = Object.fromEntries(
    Object.entries(map ?? {}).filter(([key]) => value !== undefined || key !== name),
  );
  if (value !== undefined) put(next, name, value);
  return Object.keys(next).length === 0 ? undefined : next;
}
function typeOf(index: ProjectIndex, asset: string, path: string, property: string): Type | undefined {
  const placed = index.assets[index.assetAt.get(asset) ?? -1] as ProjectIndex['assets'][number] | undefined;
  const of = !placed || path === '' ? placed : assetInside(index, placed, path);
  const at = of?.propertyAt.get(property);
  return at === undefined ? undefined : of!.properties[at].type;
}

/** The headings of all values that placements have, in the order in which they come. */
export function valueHeadings(placements: Iterable<Placement>): string[] {
  const headings = new Set<string>();
  for (const p of placements) {
    for (const name of Object.keys(p.properties ?? {})) headings.add(headingOf('', name));
    for (const [path, values] of Object.entries(p.inside ?? {})) {
      for (const name of Object.keys(values)) headings.add(headingOf(path, name));
    }
  }
  return [...headings];
}
