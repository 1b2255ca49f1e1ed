import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { describe, expect, it } from '@jest/globals';

/** Bytes of the runtime as a game ships it, minified and gzipped. */
const MOST = 12_000;
const ROOT = fileURLToPath(new URL('../', import.meta.url));
/** In a process of its own: the bundler does not take objects of the test's realm. */
const BUNDLE = `
  import { rolldown } from 'rolldown';
  const bundle = await rolldown({ input: 'src/index.ts', resolve: { extensionAlias: { '.js': ['.ts'] } } });
  const { output } = await bundle.generate({ format: 'esm', minify: true });
  console.log(JSON.stringify(output.map(({ code, imports }) => ({ code, imports }))));
`;

describe('the runtime as a game ships it', () => {
  it('is under 12 kB, and imports nothing', () => {
    const args = ['--input-type=module', '-e', BUNDLE];
    const out = execFileSync(process.execPath, args, {
      cwd: ROOT,
      encoding: 'utf8',
      env: { ...process.env, NODE_OPTIONS: '' },
    });
    const chunks = JSON.parse(out) as { code: string; imports: string[] }[];
    expect(chunks.map((c) => c.imports)).toEqual([[]]);
    expect(chunks[0].code).toContain('oquel.wiring/1');
    expect(gzipSync(chunks[0].code, { level: 9 }).length).toBeLessThan(MOST);
  });
});

describe('the package', () => {
  it('is packed with code, types, README and licence, and nothing else', () => {
    const options = {
      cwd: ROOT,
      encoding: 'utf8',
      env: { ...process.env, npm_config_loglevel: 'error' },
    } as const;
    const [{ files }] = JSON.parse(execFileSync('npm', ['pack', '--dry-run', '--json'], options)) as {
      files: { path: string }[];
    }[];
    const paths = files.map((f) => f.path);
    expect(paths).toEqual(
      expect.arrayContaining(['LICENSE', 'README.md', 'package.json', 'dist/index.js', 'dist/index.d.ts']),
    );
    expect(
      paths.filter((p) => !/^(LICENSE|README\.md|package\.json|dist\/[\w-]+\.(js|d\.ts))$/.test(p)),
    ).toEqual([]);
  });
});
