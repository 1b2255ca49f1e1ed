import { execFileSync } from 'node:child_process';
import {
  copyFileSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, normalize } from 'node:path';
import { fileURLToPath } from 'node:url';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { anchorOf, guidePages } from '../lib/guide.mjs';
import { thirdParty, thirdPartyPage } from '../lib/third-party.mjs';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));
const OQUEL = join(ROOT, 'dist/package/oquel.mjs');
const pages = guidePages();
const scripts = (
  JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8')) as { scripts: Record<string, string> }
).scripts;

/** Where a page lies in the checkout. */
function fileOf(page: string): string {
  const elsewhere: Record<string, string> = {
    'runtime.md': 'packages/runtime/README.md',
    'demo.md': 'demo/README.md',
  };
  return join(ROOT, elsewhere[page] ?? `docs/${page}`);
}
const FILES = [...[...pages.keys()].map(fileOf), join(ROOT, 'README.md')];
function headings(file: string): Set<string> {
  const known = new Map<string, number>();
  const text = readFileSync(file, 'utf8').replace(/^(```)[\s\S]*?^\1/gm, '');
  return new Set([...text.matchAll(/^#{1,6} (.*)$/gm)].map(([, words]) => anchorOf(words, known)));
}

describe('links', () => {
  it.each(FILES.map((f) => [f.slice(ROOT.length), f]))('of %s lead somewhere', (_name, file) => {
    const text = readFileSync(file, 'utf8');
    for (const [, href] of text.matchAll(/\]\(([^)\s]+)\)/g)) {
      if (/^https?:/.test(href)) continue;
      const [path, hash] = href.split('#');
      const to = path === '' ? file : normalize(join(dirname(file), path));
      expect([href, existsSync(to)]).toEqual([href, true]);
      if (hash !== undefined && to.endsWith('.md'))
        expect([href, headings(to).has(hash)]).toEqual([href, true]);
    }
  });
  it('of the application lead to pages and sections of the guide', () => {
    const views = headings(fileOf('views.md'));
    for (const view of [
      'plan',
      'wire',
      'sheet',
      'ripple',
      'crossings',
      'catalogue',
      'rehearse',
      'plays',
      'walk',
      'audit',
      'builds',
      'exchange',
      'people',
    ])
      expect([view, views.has(view)]).toEqual([view, true]);
    expect(pages.has('first-hour.md')).toBe(true);
  });
  it('of the guide as it is served lead somewhere, too', () => {
    const folder = join(ROOT, 'apps/web/dist/guide');
    const html = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((name) =>
      name.endsWith('.html'),
    );
    expect(html.length).toBe(pages.size);
    for (const page of html) {
      const text = readFileSync(join(folder, page), 'utf8');
      for (const [, href] of text.matchAll(/(?:href|src)="([^"]+)"/g)) {
        if (/^(https?:|\/)/.test(href)) continue;
        const [path, hash] = href.split('#');
        const to = path === '' ? join(folder, page) : normalize(join(folder, dirname(page), path));
        expect([page, href, existsSync(to) && statSync(to).isFile()]).toEqual([page, href, true]);
        if (hash)
          expect([page, href, readFileSync(to, 'utf8').includes(`id="${hash}"`)]).toEqual([page, href, true]);
      }
    }
  });
});

describe('commands that the pages show', () => {
  /** Lines of code in a page. */
  const code = (file: string): string[] => {
    const text = readFileSync(file, 'utf8');
    const fenced = [...text.matchAll(/^```\w*\n([\s\S]*?)^```/gm)].flatMap(([, block]) => block.split('\n'));
    const indented = text.split('\n').filter((line) => /^ {4,}\S/.test(line));
    // Within a sentence, too.
    const inline = [...text.matchAll(/`((?:npx )?oquel [^`\n]+)`/g)].map(([, line]) =>
      line.replaceAll('\\|', '|'),
    );
    return [...fenced, ...indented, ...inline].map((line) => line.trim());
  };
  const lines = [...new Set(FILES.filter((f) => !f.endsWith('command-line.md')).flatMap(code))];
  // Words in capitals stand for names of one's own.
  const isWhole = (line: string): boolean =>
    !/\b[A-Z]{2,}(_[A-Z]+)*\b|…|\[--/.test(line) && !line.endsWith('\\');
  const shown = lines.filter((line) => /^(npx )?oquel /.test(line) && isWhole(line));
  // A command that is only named is not run.
  const named = shown.flatMap((line) => /^(?:npx )?oquel ([a-z]+)$/.exec(line)?.[1] ?? []);
  const commands = shown.filter((line) => !/^(npx )?oquel [a-z]+$/.test(line));
  let folder: string;
  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'oquel-guide-'));
    const demo = join(ROOT, 'demo/storm-over-veyra.json');
    for (const name of ['storm-over-veyra.json', 'harbour.oquel.json', 'manifest.json'])
      copyFileSync(demo, join(folder, name));
    copyFileSync(join(ROOT, 'docs/examples/own-rules.mjs'), join(folder, 'own-rules.mjs'));
    writeFileSync(
      join(folder, 'play.jsonl'),
      '{"t":0,"kind":"raise","at":"pylon-ridge:mast-1","event":"onGust"}\n',
    );
    run(
      'oquel convert storm-over-veyra.json wiring; oquel audit wiring --gate none --format json > wiring-baseline.json',
    );
    run('mkdir -p demo; cp storm-over-veyra.json demo');
  });
  function run(line: string): { code: number; out: string } {
    const script = `oquel() { node "${OQUEL}" "$@"; }; npx() { "$@"; }; ${line}`;
    const options = {
      cwd: folder,
      encoding: 'utf8',
      stdio: 'pipe',
      env: { ...process.env, NODE_OPTIONS: '' },
    } as const;
    try {
      return { code: 0, out: execFileSync('bash', ['-c', script], options) };
    } catch (error) {
      const { status, stdout, stderr } = error as { status: number; stdout: string; stderr: string };
      return { code: status, out: stdout + stderr };
    }
  }

  it('are commands that there are', () => {
    const known = new Set([...run('oquel --help').out.matchAll(/^ {2}([a-z]+) /gm)].map(([, name]) => name));
    expect(named.filter((name) => !known.has(name))).toEqual([]);
  });
  it('are found', () => {
    expect(commands.length).toBeGreaterThan(8);
  });
  it.each(commands)('%s', (line) => {
    const { code: exit, out } = run(line);
    // The demo has planted faults, so a gate may stop.
    expect({ exit, out: exit <= 1 ? '' : out }).toEqual({ exit: expect.any(Number), out: '' });
    expect(exit).toBeLessThanOrEqual(1);
  });
  it('of npm are scripts that there are', () => {
    const asked = FILES.flatMap((f) =>
      [...readFileSync(f, 'utf8').matchAll(/npm run ([a-z-]+)/g)].map(([, name]) => name),
    );
    expect([...new Set(asked)].filter((name) => !Object.hasOwn(scripts, name))).toEqual([]);
  });
});

describe('packages of others', () => {
  it('are listed as the lock has them: `npm run docs` writes the page', () => {
    expect(readFileSync(fileOf('third-party.md'), 'utf8')).toBe(thirdPartyPage());
  });
  /** What a workspace imports and asks for; tests and tools are asked for by the repository. */
  const workspaces = ['packages/runtime', 'packages/core', 'apps/server', 'apps/web', 'apps/cli'];
  it.each(workspaces)('that %s imports are those that it asks for, and the other way round', (workspace) => {
    const { dependencies = {}, devDependencies = {} } = JSON.parse(
      readFileSync(join(ROOT, workspace, 'package.json'), 'utf8'),
    ) as Record<'dependencies' | 'devDependencies', Record<string, string> | undefined>;
    const imported = new Set(
      filesOf(join(workspace, 'src')).flatMap(([, text]) =>
        [...text.matchAll(/(?:\bfrom '|^import '|\bimport\(')([^'.\s][^'\s]*)'\)?;?$/gm)]
          .map(([, name]) => /^(@[^/]+\/)?[^/]+/.exec(name)![0])
          .filter((name) => !name.startsWith('node:')),
      ),
    );
    const asked = Object.keys({ ...dependencies, ...devDependencies });
    expect([...imported].filter((name) => !asked.includes(name))).toEqual([]);
    const all = filesOf(workspace).map(([, text]) => text);
    const isUsed = (name: string): boolean =>
      isForOthers(name) || all.some((text) => text.includes(`'${name}'`) || text.includes(`'${name}/`));
    expect(asked.filter((name) => !isUsed(name))).toEqual([]);
  });
  it('that the repository asks for are used somewhere', () => {
    const own = thirdParty().direct.filter(({ uses }) => uses.some((u) => u.startsWith('the repository')));
    const texts = ['apps', 'packages', 'scripts', 'e2e', 'bench', 'demo'].flatMap((f) =>
      filesOf(f).map(([, text]) => text),
    );
    for (const name of readdirSync(ROOT))
      if (/\.(m?[jt]s|json)$/.test(name) && !/^package/.test(name))
        texts.push(readFileSync(join(ROOT, name), 'utf8'));
    const isUsed = (name: string): boolean =>
      isForOthers(name) ||
      texts.some((text) =>
        [
          `'${name}'`,
          `'${name}/`,
          `"${name}"`,
          `npx', ['${name}`,
          `'npx', ['${name}`,
          `node_modules/${name}/`,
        ].some((words) => text.includes(words)),
      );
    expect(own.map((p) => p.name).filter((name) => !isUsed(name))).toEqual([]);
  });
  /** Asked for by a package that is used: as its peer, or for its types. */
  function isForOthers(name: string): boolean {
    const PEERS = [
      '@emotion/react',
      '@emotion/styled',
      '@swc/core',
      'graphology-types',
      'pino',
      'pino-http',
      'react-is',
      'react-dom',
      'rxjs',
      'reflect-metadata',
      'class-transformer',
    ];
    return PEERS.includes(name) || name.startsWith('@types/') || name.startsWith('@oquel/');
  }
  function filesOf(folder: string): [file: string, text: string][] {
    return readdirSync(join(ROOT, folder), { recursive: true, withFileTypes: true })
      .filter(
        (e) => e.isFile() && /\.(m?[jt]sx?|json)$/.test(e.name) && !/^package(-lock)?\.json$/.test(e.name),
      )
      .map((e) => join(e.parentPath, e.name))
      .filter((file) => !/\/(dist|node_modules|test-results)\//.test(file))
      .map((file) => [file, readFileSync(file, 'utf8')]);
  }
});
