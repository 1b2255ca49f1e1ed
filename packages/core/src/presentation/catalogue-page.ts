import { catalogueOf } from '../catalogue/entries.js';
import type { CatalogueKind } from '../catalogue/entry.js';
import type { ProjectIndex } from '../project/index-project.js';
import { printFields } from '../wireline/declared.js';

const HEADINGS: Record<CatalogueKind, string> = {
  event: 'Events',
  action: 'Actions',
  channel: 'Channels',
  enum: 'Enums',
  table: 'Key tables',
  loadSet: 'Load sets',
  peer: 'Peers',
  tag: 'Tags',
};

/** The catalogue as one page to print, for people who have no Oquel. No scripts, nothing fetched. */
export function catalogueHtml(index: ProjectIndex): string {
  const entries = catalogueOf(index);
  const parts = (Object.keys(HEADINGS) as CatalogueKind[]).map((kind) => {
    const own = entries.filter((e) => e.kind === kind);
    if (own.length === 0) return '';
    const rows = own.map((e) => {
      const cells = [
        `${escaped(e.asset)} <b>${escaped(e.name)}</b>`,
        escaped(printFields(e.fields)),
        escaped(e.about),
        String(e.brings),
        kind === 'event' || kind === 'channel' ? String(e.hears) : '',
        escaped(e.note),
      ];
      return `<tr>${cells.map((c) => `<td>${c}</td>`).join('')}</tr>`;
    });
    const head = ['name', 'carries', 'comes about', 'by', 'heard by', 'note']
      .map((h) => `<th>${h}</th>`)
      .join('');
    return `<h2>${HEADINGS[kind]} (${own.length})</h2><table><thead><tr>${head}</tr></thead><tbody>${rows.join('\n')}</tbody></table>`;
  });
  const title = `${escaped(index.project.name)}: everything that has a name`;
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${title}</title><style>
body{font:11pt/1.3 sans-serif;margin:2em}h1{font-size:16pt}h2{font-size:13pt;margin:1.4em 0 .4em}
table{border-collapse:collapse;width:100%}th,td{text-align:left;vertical-align:top;padding:2pt 8pt 2pt 0;border-bottom:.5pt solid #999}
tr{break-inside:avoid}</style></head><body><h1>${title}</h1>${parts.join('\n')}</body></html>\n`;
}
function escaped(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
}
