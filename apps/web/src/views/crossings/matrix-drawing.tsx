import {
  useCallback,
  useEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type MouseEvent,
  type ReactNode,
} from 'react';
import { useColorMode } from '../../parts/color-mode.js';
import { queryNow } from '../../parts/use-query.js';
import { tinyNumber } from '../../format.js';
import { coveredWords } from '../../session/coverage.js';
import { isUnused, shadeOf, STRIPES, type Matrix, type MatrixCell } from './cells.js';

/** A cell is a square; few of them are larger, so that the room is used. Pixels. */
const CELL = { least: 26, most: 46 };
const NUMBERS = '600 11px "Sofia Sans Semi Condensed"';
const LABELS = '500 12px "Spline Sans Mono"';
const NAMES = 190;
const HEAD = 132;

interface Props {
  matrix: Matrix;
  /** Place of the cell that is looked at; −1 for none. */
  row: number;
  column: number;
  label: string;
  onChoose: (row: number, column: number) => void;
}
type Colours = Record<
  'ink' | 'soft' | 'line' | 'fine' | 'sheet' | 'ground' | 'accent' | 'error' | 'warning' | 'info',
  string
>;

/** Senders down, receivers across, on canvas: only what is in sight is drawn, however large the matrix is. */
export function MatrixDrawing({ matrix, row, column, label, onChoose }: Props): ReactNode {
  const pane = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { mode } = useColorMode();
  const [size, setSize] = useState({ width: 0, height: 0 });
  const hover = useRef<{ row: number; column: number } | null>(null);
  const n = matrix.names.length;
  const side = sideOf(n, size);

  const draw = useCallback(() => {
    const [box, surface] = [pane.current, canvas.current];
    const ctx = surface?.getContext('2d');
    if (!box || !surface || !ctx) return;
    const ratio = window.devicePixelRatio || 1;
    const { clientWidth: width, clientHeight: height } = box;
    if (surface.width !== width * ratio || surface.height !== height * ratio) {
      surface.width = width * ratio;
      surface.height = height * ratio;
    }
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    paint(ctx, coloursOf(box), matrix, {
      width,
      height,
      side,
      left: box.scrollLeft,
      top: box.scrollTop,
      row,
      column,
      hover: hover.current,
    });
  }, [matrix, row, column, side]);
  useEffect(draw, [draw, size, mode]);
  useEffect(() => {
    let current = true;
    // What is drawn before its fonts are there would keep others.
    void Promise.all([NUMBERS, LABELS].map((font) => document.fonts.load(font))).then(
      () => current && draw(),
    );
    return () => {
      current = false;
    };
  }, [draw]);
  useEffect(() => {
    const box = pane.current;
    if (!box) return;
    const watch = new ResizeObserver(() => setSize({ width: box.clientWidth, height: box.clientHeight }));
    watch.observe(box);
    return () => watch.disconnect();
  }, []);
  useEffect(() => {
    const box = pane.current;
    if (!box || row < 0) return;
    const [x, y] = [column * side, row * side];
    const [w, h] = [box.clientWidth - NAMES, box.clientHeight - HEAD];
    if (x < box.scrollLeft) box.scrollLeft = x;
    else if (x + side > box.scrollLeft + w) box.scrollLeft = x + side - w;
    if (y < box.scrollTop) box.scrollTop = y;
    else if (y + side > box.scrollTop + h) box.scrollTop = y + side - h;
  }, [row, column, side]);

  const placeOf = (e: MouseEvent): { row: number; column: number } | null => {
    const box = pane.current!;
    const rect = box.getBoundingClientRect();
    const [x, y] = [e.clientX - rect.left - NAMES, e.clientY - rect.top - HEAD];
    if (x < 0 || y < 0) return null;
    const place = {
      row: Math.floor((y + box.scrollTop) / side),
      column: Math.floor((x + box.scrollLeft) / side),
    };
    return place.row < n && place.column < n ? place : null;
  };
  const onMove = (e: MouseEvent): void => {
    const at = placeOf(e);
    if (at?.row === hover.current?.row && at?.column === hover.current?.column) return;
    hover.current = at;
    const cell = at && matrix.at.get(at.row * n + at.column);
    pane.current!.title = cell ? cellText(cell, matrix) : '';
    draw();
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    const steps: Record<string, [number, number]> = {
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      ArrowRight: [0, 1],
      ArrowLeft: [0, -1],
    };
    if (!(e.key in steps) || n === 0) return;
    e.preventDefault();
    const [dr, dc] = steps[e.key];
    const clamp = (v: number): number => Math.min(n - 1, Math.max(0, v));
    const wanted = queryNow();
    const [from, to] = ['from', 'to'].map((end) => matrix.names.indexOf(wanted.get(end) ?? ''));
    onChoose(clamp(from + dr), clamp(to + dc));
  };
  return (
    <div
      className="matrix"
      ref={pane}
      role="group"
      aria-label={label}
      tabIndex={0}
      onScroll={draw}
      onMouseMove={onMove}
      onMouseLeave={() => {
        hover.current = null;
        draw();
      }}
      onClick={(e) => {
        const at = placeOf(e);
        if (at) onChoose(at.row, at.column);
      }}
      onKeyDown={onKeyDown}
    >
      <canvas
        ref={canvas}
        aria-hidden="true"
        style={{
          width: size.width,
          height: size.height,
          position: 'sticky',
          left: 0,
          top: 0,
          display: 'block',
        }}
      />
      <div
        aria-hidden="true"
        style={{ width: NAMES + n * side, height: Math.max(0, HEAD + n * side - size.height) }}
      />
    </div>
  );
}

function sideOf(n: number, { width, height }: { width: number; height: number }): number {
  const room = Math.min(width - NAMES, height - HEAD) - 2;
  return Math.min(CELL.most, Math.max(CELL.least, Math.floor(room / Math.max(1, n))));
}

/** A cell in words. */
export function cellText({ cell, row, column, used }: MatrixCell, { names }: Matrix): string {
  const parts = [
    `${names[row]} to ${names[column]}: ${cell.deliveries} ${cell.deliveries === 1 ? 'delivery' : 'deliveries'}`,
    `${cell.of} ${cell.of === 1 ? 'binding' : 'bindings'}`,
  ];
  if (cell.throughChannel > 0) parts.push(`${cell.throughChannel} through channels`);
  if (cell.acrossScenes > 0) parts.push(`${cell.acrossScenes} across scenes`);
  if (cell.inCode > 0) parts.push(`${cell.inCode} in code`);
  if (used) parts.push(coveredWords(used));
  return parts.join(', ');
}

interface View {
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

function paint(ctx: CanvasRenderingContext2D, c: Colours, { names, at, most }: Matrix, v: View): void {
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
  paintNames(ctx, c, names, v, first, last);
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
  v: View,
  first: { row: number; column: number },
  last: { row: number; column: number },
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
function coloursOf(el: HTMLElement): Colours {
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
