import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './root.mjs';
import { capture, run } from './run.mjs';
import { say, Trouble } from './say.mjs';

const MARK = join(ROOT, 'node_modules', '.oquel-lock');

/** Installs the npm packages of the lock file unless they are there already. */
export async function installNpmPackages() {
  const wanted = lockHash();
  if (existsSync(MARK) && readFileSync(MARK, 'utf8') === wanted) return;
  say('Installing npm packages ...');
  // `npm ci` demands packages for other platforms that some registries do not serve; `install` keeps to the lock too.
  const before = readFileSync(join(ROOT, 'package-lock.json'));
  const code = await run('npm', ['install', '--no-audit', '--no-fund', '--loglevel=error'], { cwd: ROOT });
  if (code !== 0) {
    throw new Trouble(
      'The npm packages could not be installed.',
      'See the message of npm above; check the network and the free space on the disk, then run this again.',
    );
  }
  // A platform's own additions to the lock are not a change of the project.
  writeFileSync(join(ROOT, 'package-lock.json'), before);
  writeFileSync(MARK, wanted);
}
function lockHash() {
  return createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
}

/** Installs a Debian package when a file of it is missing and the caller may. */
export async function ensureDebianPackage(name, isThere, purpose) {
  if (isThere()) return;
  if (process.getuid?.() !== 0) {
    throw new Trouble(
      `${purpose} is not installed, and only root may install it.`,
      `Run: sudo apt-get install ${name}`,
    );
  }
  say(`Installing ${name} (${purpose}) ...`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const install = () => capture('apt-get', ['install', '-y', '--no-install-recommends', name], { env });
  let result = await install().catch(() => null);
  if (result && result.code !== 0) {
    await capture('apt-get', ['update'], { env });
    result = await install();
  }
  if (result === null)
    throw new Trouble(`${purpose} is not installed and there is no apt-get.`, `Install ${name}.`);
  if (result.code !== 0 || !isThere()) {
    throw new Trouble(
      `${name} could not be installed:\n${result.output.trim().split('\n').slice(-4).join('\n')}`,
      `Mend that, or install ${name} yourself, then run this again.`,
    );
  }
}
