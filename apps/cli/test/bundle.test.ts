import { execFileSync, spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { DEMO, oquel } from './harness.js';

const BUILT = fileURLToPath(new URL('../../../dist/', import.meta.url));
/** Nothing of the checkout is in sight. */
const away = (): string => mkdtempSync(join(tmpdir(), 'oquel-away-'));
const env = { PATH: process.env.PATH, HOME: away() };

function run(
  program: string,
  args: string[],
  cwd: string,
): { code: number | null; out: string; err: string } {
  const { status, stdout, stderr } = spawnSync(program, args, { cwd, env, encoding: 'utf8' });
  return { code: status, out: stdout, err: stderr };
}

describe('the command line as one file', () => {
  const folder = away();
  const bundle = join(folder, 'oquel.mjs');
  beforeAll(() => cpSync(join(BUILT, 'oquel.mjs'), bundle));

  it.each([
    ['audit', DEMO, '--today', '2026-11-24'],
    ['audit', DEMO, '--today', '2026-11-24', '--format', 'csv'],
    ['rehearse', DEMO],
    ['explain', 'relay-cycle'],
    ['--version'],
  ])('does by its path alone what the checkout does: %s', async (...args) => {
    expect(run(process.execPath, [bundle, ...args], folder)).toEqual(await oquel(...args));
  });
  it('says where its kit for runtimes would be given', () => {
    const { code, err } = run(
      process.execPath,
      [bundle, 'conformance', '--run', 'x {wiring} {steps}'],
      folder,
    );
    expect(code).toBe(2);
    expect(err).toContain('say with --cases where they are');
  });
});

describe('the package', () => {
  const folder = away();
  const [tarball] = readdirSync(BUILT).filter((f) => f.endsWith('.tgz'));
  const bin = join(folder, 'node_modules/.bin/oquel');
  beforeAll(() => {
    execFileSync('npm', ['init', '--yes'], { cwd: folder, env, stdio: 'ignore' });
    const args = ['install', '--offline', '--no-audit', '--no-fund', '--save-dev', join(BUILT, tarball)];
    execFileSync('npm', args, { cwd: folder, env, stdio: 'pipe' });
  }, 60_000);

  it('installs without a registry, and brings nothing else', () => {
    const lock = JSON.parse(readFileSync(join(folder, 'package-lock.json'), 'utf8')) as { packages: object };
    expect(Object.keys(lock.packages)).toEqual(['', 'node_modules/oquel']);
  });
  it('audits, and ends as the gate says', async () => {
    const args = ['audit', DEMO, '--today', '2026-11-24'];
    expect(run(bin, args, folder)).toEqual(await oquel(...args));
  });
  it('has its kit for runtimes, and the licences of what is in it', () => {
    const { code, err } = run(bin, ['conformance', '--run', 'x {wiring} {steps}', '--only', 'none'], folder);
    expect([code, err.trim()]).toEqual([2, 'there is no case "none"']);
    const licences = readFileSync(join(folder, 'node_modules/oquel/third-party.txt'), 'utf8');
    expect(licences).toMatch(/^commander \d/m);
  });
});
