import { escaped, type Drawn } from '../../parts/picture/picture.js';
import { isUnused, shadeOf, STRIPES, type Matrix, type MatrixCell } from './cells.js';

/** Groups that one picture holds. */
export const MOST_IN_PICTURE = 200;
const CELL = 26;
const LETTER = 7.3;
const LEGEND = 26;

/** The whole matrix as a picture, as it is drawn on the screen; null where it has too many groups. Cost: its cells and names. */
export function matrixPicture({ names, at, most }: Matrix, colour: (name: string) => string): Drawn | null {
  const n = names.length;
  if (n === 0 || n > MOST_IN_PICTURE) return null;
  const longest = names.reduce((high, name) => Math.max(high, name.length), 0);
  const room = Math.ceil(longest * LETTER) + 24;
  const [ink, soft, fine] = ['--ink', '--soft', '--fine'].map(colour);
  const text = (x: number, y: number, words: string, more = ''): string =>
    `<text x="${x}" y="${y}" font-size="12" font-family="monospace" fill="${ink}" ${more}>${escaped(words)}</text>`;
  const side = n * CELL;
  const parts = [
    `<rect x="${room}" y="${room}" width="${side}" height="${side}" fill="${colour('--sheet')}"/>`,
  ];
  for (let i = 0; i <= n; i++) {
    const along = room + i * CELL;
    parts.push(`<path d="M${room} ${along}h${side}M${along} ${room}v${side}" stroke="${fine}" fill="none"/>`);
  }
  names.forEach((name, i) => {
    const middle = room + i * CELL + CELL / 2 + 4;
    parts.push(text(room - 8, middle, name, 'text-anchor="end"'));
    parts.push(text(0, 0, name, `transform="translate(${middle} ${room - 8}) rotate(-90)"`));
  });
  for (const cell of at.values()) parts.push(cellOf(cell, most, room, colour));
  parts.push(
    `<text x="${room}" y="${room + side + 18}" font-size="12" font-family="sans-serif" fill="${soft}">${escaped(
      'Rows: senders; columns: receivers; numbers: deliveries. Cut corner: through a channel; bar: across scenes; dot: in code; frame: a finding; stripes: never used.',
    )}</text>`,
  );
  return { inner: parts.join('\n'), width: Math.max(room + side + 16, 860), height: room + side + LEGEND };
}

/** As far as they lie in the cell. */
function stripes(x: number, y: number, colour: string): string {
  const ways = STRIPES.map((along) => {
    const [left, right] = [Math.max(2, along), Math.min(CELL - 1, along + CELL)];
    return `M${x + left} ${y + CELL - (left - along)}L${x + right} ${y + CELL - (right - along)}`;
  });
  return `<path d="${ways.join('')}" stroke="${colour}" stroke-width="1" fill="none"/>`;
}

function cellOf(of: MatrixCell, most: number, room: number, colour: (name: string) => string): string {
  const { cell, row, column, fits, fault } = of;
  const [x, y] = [room + column * CELL, room + row * CELL];
  const shade = shadeOf(cell.deliveries, most);
  const notch = cell.throughChannel > 0 ? 8 : 0;
  const [ink, sheet] = [colour('--ink'), colour('--sheet')];
  const over = shade > 0.5 && fits ? sheet : ink;
  return [
    `<g opacity="${fits ? 1 : 0.25}">`,
    `<path d="M${x + 2 + notch} ${y + 2}H${x + CELL - 1}V${y + CELL - 1}H${x + 2}V${y + 2 + notch}Z" fill="${ink}" fill-opacity="${shade.toFixed(3)}"/>`,
    isUnused(of) ? stripes(x, y, over) : '',
    `<text x="${x + CELL / 2}" y="${y + CELL / 2 + 4}" font-size="11" font-family="sans-serif" text-anchor="middle" fill="${over}">${cell.deliveries}</text>`,
    cell.acrossScenes > 0
      ? `<rect x="${x + 2}" y="${y + CELL - 4}" width="${CELL - 3}" height="3" fill="${colour('--accent')}"/>`
      : '',
    cell.inCode > 0 ? `<circle cx="${x + CELL - 5}" cy="${y + 6}" r="2" fill="${over}"/>` : '',
    fault
      ? `<rect x="${x + 2.5}" y="${y + 2.5}" width="${CELL - 4}" height="${CELL - 4}" fill="none" stroke-width="2" stroke="${colour(`--${fault}`)}"/>`
      : '',
    '</g>',
  ].join('');
}
