import type { Binding, Project } from '../project/types.js';
import { printConditions } from '../wireline/conditions.js';
import { printPathDot } from '../wireline/names.js';
import { printAllOptions, printFrom, printTo } from '../wireline/print.js';
import { csvText, type Delimiter } from './csv.js';

const COLUMNS = [
  'asset',
  'id',
  'sender',
  'event',
  'receiver',
  'action',
  'arguments',
  'if',
  'options',
  'note',
];

/** Every binding as CSV, one a line, in running order; reading it back gives the very same bindings. */
export function bindingsCsv(project: Project, delimiter?: Delimiter): string {
  return csvText(
    [COLUMNS, ...project.assets.flatMap(({ id, bindings = [] }) => bindings.map((b) => [id, ...cells(b)]))],
    delimiter,
  );
}

function cells(b: Binding): string[] {
  const { from, to } = b;
  const [sender, event] =
    'channel' in from
      ? [printFrom(b), '']
      : [pathText(from.at), printFrom(b).slice(printPathDot(from.at).length)];
  const said = printTo({ ...b, args: undefined });
  const args = printTo(b)
    .slice(said.length)
    .replace(/^\((.+)\)$/s, '$1');
  const dot = 'channel' in to ? said.length : said.length - printedAction(b).length - 1;
  const receiver = said.slice(0, dot);
  const action = 'channel' in to ? '' : printedAction(b);
  return [
    b.id,
    sender,
    event,
    receiver === '' ? '.' : receiver,
    action,
    args,
    conditionsCell(b),
    // An empty cell is no note; an empty note is reported as an option.
    [...printAllOptions({ ...b, if: undefined }), ...(b.note === '' ? ['note ""'] : [])].join(' '),
    b.note ?? '',
  ];
}
/** Without the word, which is the column's name; an empty cell is no list at all. */
function conditionsCell({ if: asked }: Binding): string {
  return asked?.length === 0 ? 'nothing' : printConditions(asked).replace(/^if /, '');
}
/** What stands behind the last dot. */
function printedAction({ to }: Binding): string {
  return 'channel' in to ? '' : printTo({ to: { at: '.', action: to.action } }).slice(1);
}
function pathText(path: string): string {
  return path === '.' ? '.' : printPathDot(path).slice(0, -1);
}
