import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { expect, test } from '@playwright/test';

const DIST = fileURLToPath(new URL('../apps/web/dist/', import.meta.url));
/** Bytes of gzipped JavaScript that a first visit to Wire may take, worker code apart. */
const MOST = 300_000;

/** The files that a module brings with it, itself among them. */
function withImports(files: readonly string[]): string[] {
  const seen = new Set<string>();
  const left = [...files];
  for (let file = left.pop(); file !== undefined; file = left.pop()) {
    if (seen.has(file)) continue;
    seen.add(file);
    const text = readFileSync(`${DIST}assets/${file}`, 'utf8');
    for (const [, name] of text.matchAll(/(?:from|(?<![\w(])import)"\.\/([\w.-]+\.js)"/g)) left.push(name);
  }
  return [...seen];
}

test('the first visit to Wire takes less than 300 kB of JavaScript', () => {
  const page = readFileSync(`${DIST}index.html`, 'utf8');
  const entry = [...page.matchAll(/assets\/([\w.-]+\.js)/g)].map(([, name]) => name);
  const wire = readdirSync(`${DIST}assets`).filter((name) => /^wire-view-.*\.js$/.test(name));
  expect(entry.length).toBeGreaterThan(0);
  expect(wire).toHaveLength(1);
  const bytes = withImports([...entry, ...wire]).map(
    (file) => gzipSync(readFileSync(`${DIST}assets/${file}`)).length,
  );
  expect(bytes.reduce((a, b) => a + b, 0)).toBeLessThan(MOST);
});
