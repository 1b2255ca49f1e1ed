import type { Figures, Metrics } from '@oquel/core';
import { escaped, type Drawn } from '../../parts/picture/picture.js';

const WIDTH = 860;
const CHART = 150;
/** Bars of one list. */
const MOST_BARS = 24;

interface Shown {
  metrics: Metrics;
  figures: Figures;
  limits: { maxChain: number; maxFanOut: number };
  byRule: readonly (readonly [string, number])[];
  byAsset: readonly (readonly [string, number])[];
}

/** The figures of the audit as one picture: the numbers, both distributions with their limits, and the hot spots. */
export function figuresPicture(shown: Shown, colour: (name: string) => string): Drawn {
  const { metrics, figures, limits, byRule, byAsset } = shown;
  const parts: string[] = [];
  let y = 24;
  const text = (x: number, at: number, words: string, more = ''): void => {
    parts.push(
      `<text x="${x}" y="${at}" font-family="sans-serif" font-size="13" fill="${colour('--ink')}" ${more}>${escaped(words)}</text>`,
    );
  };
  text(
    16,
    y,
    `${metrics.expandedBindings} bindings over all instances · ${metrics.instances} instances · longest chain ${metrics.longestChain} · widest fan-out ${metrics.widestFanOut} · cycles ${metrics.cycles}`,
  );
  const histogram = (title: string, buckets: Figures['chains'], limit: number): void => {
    y += 34;
    text(16, y, title, 'font-weight="700"');
    const top = y + 22;
    const high = buckets.reduce((n, b) => Math.max(n, b.count), 1);
    const last = buckets.reduce((n, b) => Math.max(n, b.value), limit + 1);
    const step = (WIDTH - 60) / (last + 1);
    for (const { value, count } of buckets) {
      const h = (count / high) * (CHART - 20);
      const x = 30 + value * step;
      parts.push(
        `<rect x="${x}" y="${top + CHART - 20 - h}" width="${Math.max(2, step * 0.8)}" height="${h}" fill="${colour(value > limit ? '--warning' : '--ink')}"/>`,
      );
      text(x + step * 0.4, top + CHART - 24 - h, String(count), 'text-anchor="middle"');
      if (last <= 60 || value % 10 === 0)
        text(x + step * 0.4, top + CHART - 4, String(value), 'text-anchor="middle"');
    }
    const at = 30 + (limit + 1) * step - step * 0.1;
    parts.push(
      `<path d="M${at} ${top}V${top + CHART - 20}" stroke="${colour('--warning')}" stroke-width="2"/>`,
    );
    text(at + 5, top + 10, `limit ${limit}`);
    y = top + CHART;
  };
  histogram('Events by the hops of their longest chain', figures.chains, limits.maxChain);
  histogram('Events by their fan-out', figures.fanOuts, limits.maxFanOut);
  const bars = (title: string, counts: Shown['byRule']): void => {
    y += 34;
    text(16, y, title, 'font-weight="700"');
    const most = counts.reduce((n, [, c]) => Math.max(n, c), 1);
    for (const [name, count] of counts.slice(0, MOST_BARS)) {
      y += 20;
      text(200, y, name, 'text-anchor="end"');
      parts.push(
        `<rect x="210" y="${y - 11}" width="${(count / most) * (WIDTH - 290)}" height="14" fill="${colour('--ink')}"/>`,
      );
      text(218 + (count / most) * (WIDTH - 290), y, String(count));
    }
    if (counts.length > MOST_BARS) {
      y += 20;
      text(210, y, `and ${counts.length - MOST_BARS} more`);
    }
  };
  bars('Findings by rule', byRule);
  bars('Findings by asset', byAsset);
  return { inner: parts.join('\n'), width: WIDTH, height: y + 20 };
}
