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
import { coveredWords } from '../../session/coverage.js';
import type { Matrix, MatrixCell } from './cells.js';
import { CELL, coloursOf, HEAD, LABELS, NAMES, NUMBERS, paint } from './matrix-paint.js';

interface Props {
  matrix: Matrix;
  /** Place of the cell that is looked at; −1 for none. */
  row: number;
  column: number;
  label: string;
  onChoose: (row: number, column: number) => void;
}
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
