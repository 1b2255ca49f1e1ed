import { describe, expect, it } from '@jest/globals';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';

const SRC = new URL('../src/', import.meta.url).pathname;
const files = readdirSync(SRC, { recursive: true, encoding: 'utf8' }).map((f) => join(SRC, f));
const text = new Map(files.filter((f) => /\.(tsx?|css)$/.test(f)).map((f) => [f, readFileSync(f, 'utf8')]));

/** What a module imports when it is loaded, not what it loads later. */
function importsOf(file: string): string[] {
  const found: string[] = [];
  for (const [, path] of text.get(file)!.matchAll(/^(?:import|export)\b[^;]*?'(\.[^']+)';/gm)) {
    const at = join(dirname(file), path);
    const known = [at, at.replace(/\.js$/, '.tsx'), at.replace(/\.js$/, '.ts')].find((f) => existsSync(f));
    if (known) found.push(known);
  }
  return found;
}
function loadedWith(entry: string): Set<string> {
  const loaded = new Set<string>();
  const waiting = [entry];
  for (let file = waiting.pop(); file !== undefined; file = waiting.pop()) {
    if (loaded.has(file) || !text.has(file)) continue;
    loaded.add(file);
    if (!file.endsWith('.css')) waiting.push(...importsOf(file));
  }
  return loaded;
}
/** Names of classes that a rule begins with, so that it holds wherever they are used. */
function classesOf(css: string): string[] {
  const plain = css.replace(/\/\*[\s\S]*?\*\//g, '');
  const selectors = [...plain.matchAll(/([^{}]+)\{/g)].flatMap(([, list]) => list.split(','));
  return selectors.flatMap((s) => /^\s*\.([a-z][\w-]*)/i.exec(s)?.slice(1) ?? []);
}
/** Names in the texts of `className`, alone or in a condition. */
function namesIn(tsx: string): string[] {
  const said = [...tsx.matchAll(/className=(?:"([^"]*)"|\{([^}]*(?:\$\{[^}]*\}[^}]*)*)\})/g)];
  return said.flatMap(([, plain, code]) =>
    plain !== undefined
      ? plain.split(/\s+/)
      : [...(code ?? '').matchAll(/['"`]([^'"`]*)['"`]/g)].flatMap(([, t]) => t.split(/\s+/)),
  );
}

const first = loadedWith(join(SRC, 'main.tsx'));
/** Files by what loads them when it is needed, each with all that is there already by then. */
const later = [...text].flatMap(([file, source]) =>
  [...source.matchAll(/import\('(\.[^']+)'\)/g)].map(([, path]) => ({
    by: file,
    file: join(dirname(file), path).replace(/\.js$/, '.tsx'),
  })),
);
const views = later.filter(({ by }) => first.has(by)).map(({ file }) => loadedWith(file));
function thereBy(by: string): Set<string>[] {
  if (first.has(by)) return [first];
  return views.filter((view) => view.has(by)).map((view) => new Set([...first, ...view]));
}

describe('what is loaded by itself', () => {
  const styled = new Map<string, Set<string>>();
  for (const [file, css] of text) {
    if (!file.endsWith('.css')) continue;
    for (const name of classesOf(css)) styled.set(name, (styled.get(name) ?? new Set()).add(file));
  }
  it.each(later.map(({ by, file }) => [relative(SRC, file), relative(SRC, by)]))(
    'brings the styles of all that it draws: %s, of %s',
    (file, by) => {
      const missing = new Set<string>();
      for (const there of thereBy(join(SRC, by))) {
        const own = loadedWith(join(SRC, file));
        for (const part of own) {
          for (const name of part.endsWith('.tsx') ? namesIn(text.get(part)!) : []) {
            for (const css of styled.get(name) ?? []) {
              if (!there.has(css) && !own.has(css))
                missing.add(`${name} of ${relative(SRC, part)} is in ${relative(SRC, css)}`);
            }
          }
        }
      }
      expect([...missing]).toEqual([]);
    },
  );
});
