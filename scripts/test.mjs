import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from './lib/build.mjs';
import { ensureChromium } from './lib/chromium.mjs';
import { ensureDebianPackage, installNpmPackages } from './lib/packages.mjs';
import { startPostgres } from './lib/postgres.mjs';
import { ROOT } from './lib/root.mjs';
import { run, runWithin } from './lib/run.mjs';
import { runScript, say, since } from './lib/say.mjs';

/** Unit tests and browser tests take minutes; whatever hangs is ended, so that there is always a result. */
const LIMIT = 60 * 60_000;

const SOURCES = ['packages/runtime', 'packages/core', 'apps/server', 'apps/cli', 'apps/web'];

/** Parts that run side by side. */
const ROUNDS = [['lint', 'types'], ['unit'], ['browser'], ['team']];

const PARTS = {
  lint: (env) =>
    commands(env, [
      // Its threads would each read all types anew.
      ['eslint', '.', '--max-warnings', '0'],
      ['prettier', '--check', '--log-level', 'warn', '.'],
      // Layers, and circles.
      ['depcruise', '--config', '.dependency-cruiser.mjs', ...SOURCES.map((folder) => `${folder}/src`)],
    ]),
  types: async (env) => {
    // The others read what this one writes; the build has done it.
    const first = await commands(env, [['tsc', '-b']]);
    const rest = await commands(
      env,
      [
        'apps/web',
        'demo/play',
        'packages/runtime/test',
        'packages/core/test',
        'apps/cli/test',
        'apps/server/test',
        'apps/web/test',
        'scripts/test',
        'e2e',
      ].map((p) => ['tsc', '-p', p, '--noEmit']),
    );
    return { passed: first.passed + rest.passed, failed: first.failed + rest.failed };
  },
  unit: async (env, results) => {
    const file = join(results, 'unit.json');
    // Every core has a worker: the tests wait for a database or a timer often enough.
    const args = ['jest', '--maxWorkers=100%', '--json', '--outputFile', file, '--silent'];
    const code = await runWithin(LIMIT, 'npx', args, { cwd: ROOT, env });
    if (!existsSync(file)) return { passed: 0, failed: 1 };
    const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = JSON.parse(
      readFileSync(file, 'utf8'),
    );
    const failed = numFailedTests + numRuntimeErrorTestSuites;
    return { passed: numPassedTests, failed: code !== 0 && failed === 0 ? 1 : failed };
  },
  browser: async (env, results) => {
    const file = join(results, 'browser.json');
    const report = { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: file, NODE_OPTIONS: '--no-warnings' };
    const code = await runWithin(LIMIT, 'npx', ['playwright', 'test', '-c', 'e2e', '--reporter=list,json'], {
      cwd: ROOT,
      env: report,
    });
    if (!existsSync(file)) return { passed: 0, failed: 1 };
    const { stats } = JSON.parse(readFileSync(file, 'utf8'));
    const failed = stats.unexpected;
    if (stats.flaky > 0)
      say(`${stats.flaky} of the browser tests passed at the second attempt only; see "flaky" above`);
    return { passed: stats.expected + stats.flaky, failed: code !== 0 && failed === 0 ? 1 : failed };
  },
  team: async (env) => {
    const code = await runWithin(LIMIT, 'node', ['scripts/team-check.mjs'], { cwd: ROOT, env });
    return { passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1 };
  },
};

async function commands(env, list) {
  const codes = await Promise.all(list.map((args) => inTurn(() => run('npx', args, { cwd: ROOT, env }))));
  const passed = codes.filter((code) => code === 0).length;
  return { passed, failed: list.length - passed };
}

/** Commands of all parts run two at a time: one for each core of a small machine. */
let free = 2;
const waiting = [];
async function inTurn(work) {
  if (free > 0) free--;
  else await new Promise((resolve) => waiting.push(resolve));
  try {
    return await work();
  } finally {
    const next = waiting.shift();
    if (next) next();
    else free++;
  }
}

/**
 * Lint, types, unit and API tests, browser tests, and a team's server behind a proxy. Names given after `npm test --` run
 * those parts alone: lint, types, unit, browser, team.
 */
await runScript(async () => {
  const start = performance.now();
  const wanted = process.argv.slice(2);
  const parts = Object.keys(PARTS).filter((name) => wanted.length === 0 || wanted.includes(name));
  await installNpmPackages();
  const total = { passed: 0, failed: 0 };
  const results = mkdtempSync(join(tmpdir(), 'oquel-test-'));
  let db = null;
  try {
    if (parts.includes('unit') || parts.includes('browser')) {
      await build();
      if (parts.includes('unit')) {
        // A runtime in another language is tried on the conformance kit.
        await ensureDebianPackage('python3', () => existsSync('/usr/bin/python3'), 'Python');
      }
      if (parts.includes('browser')) {
        await ensureChromium();
      }
      db = await startPostgres(join(results, 'postgres'));
    }
    const env = {
      ...process.env,
      OQUEL_TEST_POSTGRES: db?.url('postgres') ?? '',
      NODE_OPTIONS: `${process.env.NODE_OPTIONS ?? ''} --experimental-vm-modules --no-warnings`,
      npm_config_loglevel: 'error',
    };
    for (const round of ROUNDS) {
      const now = round.filter((name) => parts.includes(name));
      const test = async (name) => {
        const begun = performance.now();
        say(`\n== ${name}`);
        const { passed, failed } = await PARTS[name](env, results);
        total.passed += passed;
        total.failed += failed;
        say(`== ${name}: ${passed} passed, ${failed} failed in ${since(begun)}`);
      };
      await Promise.all(now.map(test));
    }
  } finally {
    await db?.remove();
    rmSync(results, { recursive: true, force: true });
  }
  say(`\nAll of it took ${since(start)}.`);
  say(`${total.passed} passed, ${total.failed} failed`);
  return total.failed > 0 ? 1 : 0;
});
