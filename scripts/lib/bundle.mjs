import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, relative, sep } from 'node:path';
import { ROOT } from './root.mjs';
import { capture } from './run.mjs';
import { Trouble } from './say.mjs';

/** The command line as one file that runs by its path on Node alone. */
export const BUNDLE = 'dist/oquel.mjs';
const PACKAGE = join(ROOT, 'dist/package');

/**
 * Writes the command line as one file, and as an npm package that installs without a registry, since it depends on no other:
 * `dist/oquel.mjs` and `dist/oquel-VERSION.tgz`.
 */
export async function bundleCommandLine() {
  const { version } = JSON.parse(readFileSync(join(ROOT, 'apps/cli/package.json'), 'utf8'));
  // It is installed only when this module has long been read.
  const { rolldown } = await import('rolldown');
  const bundle = await rolldown({
    input: join(ROOT, 'apps/cli/bin/bundled.js'),
    platform: 'node',
    transform: { define: { OQUEL_VERSION: JSON.stringify(version) } },
  });
  const { output } = await bundle.generate({ format: 'esm', codeSplitting: false });
  await bundle.close();
  const [chunk] = output;
  rmSync(PACKAGE, { recursive: true, force: true });
  mkdirSync(PACKAGE, { recursive: true });
  writeFileSync(join(ROOT, BUNDLE), chunk.code, { mode: 0o755 });
  cpSync(join(ROOT, BUNDLE), join(PACKAGE, 'oquel.mjs'));
  cpSync(join(ROOT, 'docs/conformance/cases'), join(PACKAGE, 'conformance'), { recursive: true });
  writeFileSync(join(PACKAGE, 'README.md'), readFileSync(join(ROOT, 'docs/command-line.md')));
  writeFileSync(join(PACKAGE, 'third-party.txt'), licences(chunk.moduleIds));
  writeFileSync(join(PACKAGE, 'package.json'), `${JSON.stringify(manifest(version), null, 2)}\n`);
  const { code, output: said } = await capture(
    'npm',
    ['pack', '--silent', '--pack-destination', join(ROOT, 'dist')],
    {
      cwd: PACKAGE,
      env: { ...process.env, npm_config_loglevel: 'error' },
    },
  );
  if (code !== 0) throw new Trouble('The command line could not be packed.', said.trim());
}

function manifest(version) {
  const { engines } = JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8'));
  return {
    name: 'oquel',
    version,
    description: 'Audit and rehearse the event bindings of a game project',
    type: 'module',
    bin: { oquel: './oquel.mjs' },
    engines,
    files: ['oquel.mjs', 'conformance', 'third-party.txt'],
  };
}

/** The licences of the packages that went into a bundle. */
function licences(modules) {
  const folders = new Set(modules.flatMap((id) => packageOf(id) ?? []));
  return [...folders]
    .sort()
    .map((folder) => {
      const { name, version, license } = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
      const file = readdirSync(folder).find((f) => /^licen[cs]e/i.test(f));
      const text = file ? readFileSync(join(folder, file), 'utf8').trim() : '';
      return `${name} ${version} (${license})\n\n${text}\n`;
    })
    .join(`\n${'-'.repeat(80)}\n\n`);
}
/** The folder of the npm package that a module belongs to; null for our own. */
function packageOf(id) {
  if (!id.includes(`${sep}node_modules${sep}`) || relative(ROOT, id).startsWith('..')) return null;
  let folder = dirname(id);
  // Some packages have a manifest without a name in the folder of a format.
  while (!existsSync(join(folder, 'package.json')) || !named(folder)) folder = dirname(folder);
  return folder;
}
function named(folder) {
  return JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8')).version !== undefined;
}
