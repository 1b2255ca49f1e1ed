import type { Change } from '../edit/change.js';
import { needKey, type Need, type Wishes } from '../declare/needs.js';
import { Spelling } from '../declare/misspelt.js';
import type { CsvCells } from '../exchange/csv-table.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { isName } from '../project/name.js';
import { defaultOfType } from '../project/type-values.js';
import type { AssetKind, Placement, Property } from '../project/types.js';
import { own } from '../util/own.js';
import { parseDeclaration, printDeclaration } from '../wireline/declaration.js';
import { isOfType, typeOfValues } from '../exchange/cell.js';
import { propertyOfHeading, valueColumn } from './placements.js';
import type { AnyKind, TableMapping } from './tables.js';

/** What rows name and that is not there. */
export interface Missing {
  needs: Need[];
  /** The edit that makes it; what is open still is not made. */
  making: Change[];
  /** The asset, and the property of an asset, that is meant by a name of the table. */
  meant: (name: string) => string;
  meantProperty: (of: string, name: string) => string;
}

/**
 * The assets that rows name, and the properties that rows of placements set, where they are not there: assets as scenes where
 * something is placed or wired in them, else as prefabs; properties with the type that holds all their values. What looks like a slip
 * of the pen is asked about; what is there as a row says needs nothing. Cost: the cells.
 */
export function missingFor(
  index: ProjectIndex,
  table: { kind: AnyKind; ofAsset: boolean },
  rows: readonly CsvCells[],
  { mapping, owner, wishes }: { mapping: TableMapping; owner: string; wishes: Wishes },
): Missing {
  const needs = new Map<string, Need>();
  const spelling = new Spelling();
  const known = index.assets.map((a) => a.decl.id);
  const kinds = new Map<string, AssetKind>();
  const meant = (name: string): string => wishes.get(needKey('asset', name))?.use ?? name;
  const cell = ({ cells }: CsvCells, field: string): string =>
    (cells[own(mapping, field) ?? -1] ?? '').trim();

  const asset = (name: string, row: number, kind: AssetKind): void => {
    if (name === '' || !isName(name) || index.assetAt.has(meant(name))) return;
    const key = needKey('asset', name);
    const need = needs.get(key);
    if (need) need.lines.push(row);
    else {
      const near = spelling.of(name, known);
      kinds.set(name, kind);
      const isOpen = near.length > 0 && wishes.get(key)?.make !== true;
      needs.set(key, {
        key,
        kind: 'asset',
        of: '',
        name,
        lines: [row],
        near,
        isOpen,
        text: `${kind} ${name}`,
        fault: null,
      });
    }
  };
  rows.forEach((row, i) => {
    if (table.ofAsset)
      asset(
        cell(row, 'asset') || owner,
        i,
        table.kind === 'placements' || table.kind === 'bindings' ? 'scene' : 'prefab',
      );
    if (table.kind === 'placements' && thereIn(row)?.asset !== cell(row, 'of'))
      asset(cell(row, 'of'), i, 'prefab');
  });
  const properties = table.kind === 'placements' ? propertiesFor() : new Map<string, Property[]>();
  const meantProperty = (of: string, name: string): string =>
    wishes.get(needKey('property', name, meant(of)))?.use ?? name;
  return { needs: [...needs.values()], making: making(), meant, meantProperty };

  /** Values of each property that an asset does not have, and what holds them. */
  function propertiesFor(): Map<string, Property[]> {
    const made = new Map<string, Property[]>();
    for (const heading of Object.keys(mapping)) {
      const named = propertyOfHeading(heading);
      if (!named || named.path !== '') continue;
      const values = new Map<string, { rows: number[]; cells: string[] }>();
      rows.forEach((row, i) => {
        const text = cell(row, heading);
        const of = meant(cell(row, 'of'));
        const old = thereIn(row);
        if (old && valueColumn(index, heading)!.print(old) === text) return;
        if (
          text === '' ||
          !isName(of) ||
          hasProperty(of, wishes.get(needKey('property', named.property, of))?.use ?? named.property)
        )
          return;
        const at = values.get(of);
        if (!at) values.set(of, { rows: [i], cells: [text] });
        else {
          at.rows.push(i);
          at.cells.push(text);
        }
      });
      for (const [of, { rows: lines, cells }] of values) {
        const key = needKey('property', named.property, of);
        const there = assetOf(of)?.properties.map((p) => p.name) ?? [];
        const near = spelling.of(named.property, there);
        const isOpen = near.length > 0 && wishes.get(key)?.make !== true;
        const offered = offer(named.property, cells);
        const { value, text, fault } = wished(wishes.get(key)?.text, offered);
        needs.set(key, {
          key,
          kind: 'property',
          of,
          name: named.property,
          lines,
          near,
          isOpen,
          text,
          fault,
        });
        const list = made.get(of);
        if (isOpen) continue;
        if (list) list.push(value);
        else made.set(of, [value]);
      }
    }
    return made;
  }
  /** As a property of that name elsewhere if it holds these values, else by what they are. */
  function offer(name: string, cells: readonly string[]): Property {
    const alike = index.assets.flatMap((a) => a.properties.filter((p) => p.name === name));
    const type =
      alike.find((p) => cells.every((c) => isOfType(index, c, p.type)))?.type ?? typeOfValues(cells);
    return { name, type, default: defaultOfType(index, type) };
  }
  function wished(
    text: string | undefined,
    offered: Property,
  ): { value: Property; text: string; fault: string | null } {
    if (text === undefined) {
      return { value: offered, text: printDeclaration({ kind: 'property', value: offered }), fault: null };
    }
    const read = parseDeclaration(text, (type) => defaultOfType(index, type));
    if ('fault' in read)
      return { value: offered, text, fault: `${read.fault.message} at character ${read.fault.at + 1}` };
    const { kind, value } = read.value;
    const fault = `it must declare the property ${offered.name}, which is set`;
    return kind === 'property' && value.name === offered.name
      ? { value, text, fault: null }
      : { value: offered, text, fault };
  }
  /** What a row of placements speaks of, if that is there. */
  function thereIn(row: CsvCells): Placement | undefined {
    const asset = assetOf(cell(row, 'asset') || owner);
    return asset?.placements[asset.placementAt.get(cell(row, 'id')) ?? -1];
  }
  function assetOf(id: string): AssetIndex | undefined {
    return index.assets[index.assetAt.get(id) ?? -1];
  }
  function hasProperty(of: string, property: string): boolean {
    return assetOf(of)?.propertyAt.has(property) ?? false;
  }
  function making(): Change[] {
    const fresh = [...needs.values()].filter((n) => n.kind === 'asset' && !n.isOpen).map((n) => n.name);
    const changes = fresh.map((id, i): Change => ({
      op: 'add',
      index: index.assets.length + i,
      item: { id, kind: kinds.get(id)!, ...(kinds.get(id) === 'scene' ? { size: SCENE } : {}) },
    }));
    const there = new Set(fresh);
    for (const [asset, list] of properties) {
      const before = assetOf(asset)?.properties ?? [];
      if (before.length > 0 || assetOf(asset) || there.has(asset)) {
        changes.push({ op: 'set', asset, part: 'properties', value: [...before, ...list] });
      }
    }
    return changes;
  }
}
/** The plan of a scene that a table makes, in metres. */
const SCENE: [number, number] = [60, 40];
