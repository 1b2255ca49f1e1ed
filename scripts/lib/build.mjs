import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { bundleCommandLine, BUNDLE } from './bundle.mjs';
import { bundleServer, SERVER } from './bundle-server.mjs';
import { buildGuide } from './guide.mjs';
import { compressTexts } from './compress.mjs';
import { ROOT } from './root.mjs';
import { run } from './run.mjs';
import { say, Trouble } from './say.mjs';

const SOURCES = [
  'packages/runtime/src',
  'packages/core/src',
  'apps/server/src',
  'apps/cli/src',
  'apps/cli/bin',
  'docs/conformance/cases',
  'apps/web/src',
  'apps/web/public',
  'demo/play/src',
];
const SINGLE = [
  'package-lock.json',
  'tsconfig.base.json',
  'apps/web/index.html',
  'apps/web/vite.config.ts',
  'demo/play/index.html',
  'demo/play/vite.config.ts',
  'demo/storm-over-veyra.json',
  'docs/command-line.md',
  'scripts/lib/bundle-server.mjs',
];
/** What the guide is made of: it is made anew by itself, in a moment. */
const GUIDE_SOURCES = ['docs', 'scripts/guide'];
const GUIDE_SINGLE = ['demo/README.md', 'packages/runtime/README.md', 'scripts/lib/guide.mjs'];
const MARK = join(ROOT, 'node_modules', '.oquel-build');
const GUIDE_MARK = join(ROOT, 'node_modules', '.oquel-guide');
const RESULTS = [
  'packages/runtime/dist/index.js',
  'packages/core/dist/index.js',
  'apps/server/dist/main.js',
  SERVER,
  'apps/cli/dist/main.js',
  BUNDLE,
  'apps/web/dist/index.html',
  'apps/web/dist/play/index.html',
  'apps/web/dist/guide/index.html',
];

/** Builds core, server, command line, web and guide, unless nothing has changed since the last time. */
export async function build() {
  const now = sourcesHash(SINGLE, SOURCES);
  const guide = sourcesHash(GUIDE_SINGLE, GUIDE_SOURCES);
  const isDone = isMarked(MARK, now) && RESULTS.every((file) => existsSync(join(ROOT, file)));
  if (!isDone) await buildProgram(now);
  if (!isDone || !isMarked(GUIDE_MARK, guide)) {
    await buildGuide(join(ROOT, 'apps/web/dist/guide'));
    writeFileSync(GUIDE_MARK, guide);
  }
}
function isMarked(mark, hash) {
  return existsSync(mark) && readFileSync(mark, 'utf8') === hash;
}

async function buildProgram(now) {
  say('Building ...');
  await step('npx', ['tsc', '-b', '--force']);
  await step('npx', ['vite', 'build', '--logLevel', 'warn'], join(ROOT, 'apps/web'));
  // Into the folder of the web application, which is emptied first.
  await step('npx', ['vite', 'build', '--logLevel', 'warn'], join(ROOT, 'demo/play'));
  compressTexts(join(ROOT, 'apps/web/dist/assets'));
  await bundleServer();
  await bundleCommandLine();
  writeFileSync(MARK, now);
}

async function step(command, args, cwd = ROOT) {
  const env = { ...process.env, npm_config_loglevel: 'error' };
  if ((await run(command, args, { cwd, env })) !== 0) {
    throw new Trouble(
      `"${args.join(' ')}" failed.`,
      'See the messages above; `git status` tells what is changed.',
    );
  }
}

function sourcesHash(single, folders) {
  const hash = createHash('sha256');
  const take = (path) => hash.update(path).update(readFileSync(join(ROOT, path)));
  for (const file of single) if (existsSync(join(ROOT, file))) take(file);
  for (const folder of folders) {
    if (!existsSync(join(ROOT, folder))) continue;
    const files = readdirSync(join(ROOT, folder), { recursive: true, withFileTypes: true });
    for (const f of files
      .filter((e) => e.isFile())
      .map((e) => join(e.parentPath, e.name))
      .sort()) {
      take(f.slice(ROOT.length + 1));
    }
  }
  return hash.digest('hex');
}
