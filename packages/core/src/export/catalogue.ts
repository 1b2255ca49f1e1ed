import { catalogueOf } from '../catalogue/entries.js';
import type { CatalogueEntry } from '../catalogue/entry.js';
import type { ProjectIndex } from '../project/index-project.js';
import { printFields } from '../wireline/declared.js';
import { csvText } from './csv.js';

const COLUMNS = [
  'kind',
  'asset',
  'name',
  'carries',
  'comes about',
  'raised or done by',
  'heard by',
  'marks',
  'note',
];

/** The catalogue as CSV (RFC 4180), a row for each entry. */
export function catalogueCsv(index: ProjectIndex): string {
  return csvText([COLUMNS, ...catalogueOf(index).map(rowOf)]);
}
/** The catalogue as JSON, for other programs. */
export function catalogueJson(index: ProjectIndex): string {
  return `${JSON.stringify({ format: 'oquel.catalogue/1', project: index.project.name, entries: catalogueOf(index) }, null, 2)}\n`;
}
function rowOf(e: CatalogueEntry): string[] {
  return [
    e.kind,
    e.asset,
    e.name,
    printFields(e.fields),
    e.about,
    String(e.brings),
    String(e.hears),
    e.marks.join(', '),
    e.note,
  ];
}
