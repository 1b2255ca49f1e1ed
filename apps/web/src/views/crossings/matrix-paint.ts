import { tinyNumber } from '../../format.js';
import { isUnused, shadeOf, STRIPES, type Matrix, type MatrixCell } from './cells.js';

/** A cell is a square; few of them are larger, so that the room is used. Pixels. */
export const CELL = { least: 26, most: 46 };
export const NUMBERS = '600 11px "Sofia Sans Semi Condensed"';
export const LABELS = '500 12px "Spline Sans Mono"';
/** Room for names at the left, and at the top. Pixels. */
export const NAMES = 190;
export const HEAD = 132;

type Colours = Record<
  'ink' | 'soft' | 'line' | 'fine' | 'sheet' | 'ground' | 'accent' | 'error' | 'warning' | 'info',
  string
>;

/** What of the matrix is in sight. Pixels. */
export interface MatrixSeen {
  width: number;
  height: number;
  /** Of a cell. */
  side: number;
  left: number;
  top: number;
  row: number;
  column: number;
  hover: { row: number; column: number } | null;
}

/** Draws what is in sight. Cost: the cells in sight. */
export function paint(
  ctx: CanvasRenderingContext2D,
  c: Colours,
  { names, at, most }: Matrix,
  v: MatrixSeen,
): void {
  const n = names.length;
  ctx.fillStyle = c.ground;
  ctx.fillRect(0, 0, v.width, v.height);
  const first = { row: Math.floor(v.top / v.side), column: Math.floor(v.left / v.side) };
  const last = {
    row: Math.min(n, Math.ceil((v.top + v.height - HEAD) / v.side)),
    column: Math.min(n, Math.ceil((v.left + v.width - NAMES) / v.side)),
  };
  const x = (column: number): number => NAMES + column * v.side - v.left;
  const y = (row: number): number => HEAD + row * v.side - v.top;
  ctx.save();
  ctx.beginPath();
  ctx.rect(NAMES, HEAD, v.width - NAMES, v.height - HEAD);
  ctx.clip();
  ctx.fillStyle = c.sheet;
  ctx.fillRect(x(0), y(0), n * v.side, n * v.side);
  ctx.strokeStyle = c.fine;
  ctx.lineWidth = 1;
  for (let r = first.row; r <= last.row; r++)
    line(ctx, NAMES, y(r) + 0.5, Math.min(v.width, x(n)), y(r) + 0.5);
  for (let k = first.column; k <= last.column; k++)
    line(ctx, x(k) + 0.5, HEAD, x(k) + 0.5, Math.min(v.height, y(n)));
  ctx.strokeStyle = c.line;
  line(ctx, x(0), y(0), x(n), y(n));
  ctx.font = NUMBERS;
  ctx.textAlign = 'center';
  ctx.textBaseline = 'middle';
  for (let r = first.row; r < last.row; r++) {
    for (let k = first.column; k < last.column; k++) {
      const cell = at.get(r * n + k);
      if (cell) paintCell(ctx, c, cell, { x: x(k), y: y(r), side: v.side }, most);
    }
  }
  if (v.row >= 0 && v.column >= 0) {
    ctx.strokeStyle = c.accent;
    ctx.lineWidth = 2.5;
    ctx.strokeRect(x(v.column) + 1, y(v.row) + 1, v.side - 1, v.side - 1);
    ctx.setLineDash([3, 3]);
    if (v.row !== v.column) ctx.strokeRect(x(v.row) + 1, y(v.column) + 1, v.side - 1, v.side - 1);
    ctx.setLineDash([]);
  }
  ctx.restore();
  paintNames(ctx, c, names, v, { first, last });
}

/** Where a cell is drawn. */
interface Square {
  x: number;
  y: number;
  side: number;
}

/** Darkness by weight; a notch for what goes through a channel, a bar for what crosses scenes, a dot for code. */
function paintCell(
  ctx: CanvasRenderingContext2D,
  c: Colours,
  of: MatrixCell,
  { x, y, side }: Square,
  most: number,
): void {
  const { cell, fits, fault } = of;
  const shade = shadeOf(cell.deliveries, most);
  ctx.globalAlpha = fits ? shade : 0.07;
  ctx.fillStyle = c.ink;
  const notch = cell.throughChannel > 0 ? 8 : 0;
  ctx.beginPath();
  ctx.moveTo(x + 2 + notch, y + 2);
  ctx.lineTo(x + side - 1, y + 2);
  ctx.lineTo(x + side - 1, y + side - 1);
  ctx.lineTo(x + 2, y + side - 1);
  ctx.lineTo(x + 2, y + 2 + notch);
  ctx.fill();
  ctx.globalAlpha = fits ? 1 : 0.25;
  if (isUnused(of)) paintStripes(ctx, shade > 0.5 && fits ? c.sheet : c.ink, { x, y, side });
  ctx.fillStyle = shade > 0.5 && fits ? c.sheet : c.ink;
  ctx.fillText(tinyNumber(cell.deliveries), x + side / 2 + 0.5, y + side / 2 + 1);
  if (cell.acrossScenes > 0) {
    ctx.fillStyle = c.accent;
    ctx.fillRect(x + 2, y + side - 4, side - 3, 3);
  }
  if (cell.inCode > 0) {
    ctx.beginPath();
    ctx.arc(x + side - 5, y + 6, 2, 0, 7);
    ctx.fillStyle = shade > 0.5 && fits ? c.sheet : c.ink;
    ctx.fill();
  }
  if (fault) {
    ctx.strokeStyle = c[fault];
    ctx.lineWidth = 2;
    ctx.strokeRect(x + 2.5, y + 2.5, side - 4, side - 4);
  }
  ctx.globalAlpha = 1;
}

/** Nothing of it was used: slanted stripes across a corner, beside which its number stays legible. */
function paintStripes(ctx: CanvasRenderingContext2D, colour: string, { x, y, side }: Square): void {
  ctx.save();
  ctx.beginPath();
  ctx.rect(x + 2, y + 2, side - 3, side - 3);
  ctx.clip();
  ctx.strokeStyle = colour;
  ctx.lineWidth = 1;
  for (const along of STRIPES) {
    const foot = x + (along / CELL.least) * side;
    line(ctx, foot, y + side, foot + side, y);
  }
  ctx.restore();
}

function paintNames(
  ctx: CanvasRenderingContext2D,
  c: Colours,
  names: readonly string[],
  v: MatrixSeen,
  { first, last }: Record<'first' | 'last', { row: number; column: number }>,
): void {
  ctx.fillStyle = c.ground;
  ctx.fillRect(0, 0, NAMES, v.height);
  ctx.fillRect(0, 0, v.width, HEAD);
  ctx.font = LABELS;
  ctx.textBaseline = 'middle';
  const strong = (i: number, lit: number, under: number | undefined): string =>
    i === lit || i === under ? c.accent : c.ink;
  ctx.save();
  ctx.beginPath();
  ctx.rect(0, HEAD, NAMES, v.height - HEAD);
  ctx.clip();
  ctx.textAlign = 'right';
  for (let r = first.row; r < last.row; r++) {
    ctx.fillStyle = strong(r, v.row, v.hover?.row);
    ctx.fillText(fitted(ctx, names[r], NAMES - 16), NAMES - 8, HEAD + r * v.side - v.top + v.side / 2 + 1);
  }
  ctx.restore();
  ctx.save();
  ctx.beginPath();
  ctx.rect(NAMES, 0, v.width - NAMES, HEAD);
  ctx.clip();
  ctx.textAlign = 'left';
  for (let k = first.column; k < last.column; k++) {
    ctx.save();
    ctx.translate(NAMES + k * v.side - v.left + v.side / 2 + 1, HEAD - 8);
    ctx.rotate(-Math.PI / 2);
    ctx.fillStyle = strong(k, v.column, v.hover?.column);
    ctx.fillText(fitted(ctx, names[k], HEAD - 14), 0, 0);
    ctx.restore();
  }
  ctx.restore();
  ctx.strokeStyle = c.ink;
  ctx.lineWidth = 1;
  line(ctx, NAMES - 0.5, HEAD, NAMES - 0.5, v.height);
  line(ctx, NAMES, HEAD - 0.5, v.width, HEAD - 0.5);
  ctx.fillStyle = c.soft;
  ctx.font = '13px "Sofia Sans Semi Condensed"';
  ctx.textAlign = 'right';
  ctx.fillText('senders ↓', NAMES - 8, HEAD - 12);
  ctx.fillText('receivers →', NAMES - 8, HEAD - 30);
}

function line(ctx: CanvasRenderingContext2D, x1: number, y1: number, x2: number, y2: number): void {
  ctx.beginPath();
  ctx.moveTo(x1, y1);
  ctx.lineTo(x2, y2);
  ctx.stroke();
}
function fitted(ctx: CanvasRenderingContext2D, text: string, width: number): string {
  if (ctx.measureText(text).width <= width) return text;
  let end = text.length - 1;
  while (end > 1 && ctx.measureText(`${text.slice(0, end)}…`).width > width) end--;
  return `${text.slice(0, end)}…`;
}
/** The colours as the page has them. */
export function coloursOf(el: HTMLElement): Colours {
  const style = getComputedStyle(el);
  const names = [
    'ink',
    'soft',
    'line',
    'fine',
    'sheet',
    'ground',
    'accent',
    'error',
    'warning',
    'info',
  ] as const;
  return Object.fromEntries(names.map((n) => [n, style.getPropertyValue(`--${n}`)])) as Colours;
}
