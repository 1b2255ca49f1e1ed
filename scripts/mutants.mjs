import { execFileSync, spawnSync } from 'node:child_process';
import {
  cpSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { mutantsOf, mutated } from './lib/mutate.mjs';
import { installNpmPackages } from './lib/packages.mjs';
import { ROOT } from './lib/root.mjs';
import { runScript, say, Trouble } from './lib/say.mjs';

/** The tests of each folder of the core, the quick ones first: most mutants end there. */
const TESTS = {
  graph: [
    ['graph', 'selected', 'cases', 'rules'],
    ['audit', 'edit-graph', 'incremental-audit'],
  ],
  audit: [
    ['cases', 'rules', 'touched', 'rule-examples', 'same-mistake'],
    ['audit', 'naive-rules', 'incremental-audit'],
  ],
  edit: [
    ['edit', 'placement-edits', 'bulk', 'inside'],
    ['merge', 'names', 'incremental-audit'],
  ],
  rehearse: [
    ['rehearse-cases', 'rehearse', 'states', 'rehearsal-words'],
    ['naive-rehearsal', 'conditions', 'plays'],
  ],
  compare: [
    ['conflict-versions', 'review', 'compare-renames', 'compare-lines'],
    ['compare', 'merge'],
  ],
};
const SECONDS = 600;

/**
 * Changes the core in one place at a time and runs the tests of that folder: whoever survives says what no test would notice.
 * Arguments: a folder, how many mutants are tried (drawn at random, 100 if it is not said), a seed.
 */
await runScript(async () => {
  const [folder, count = '100', seed = '1'] = process.argv.slice(2);
  if (!Object.hasOwn(TESTS, folder ?? '')) {
    const folders = Object.keys(TESTS).join(', ');
    throw new Trouble(
      'A folder of the core is wanted.',
      `npm run mutants -- FOLDER [COUNT] [SEED]; ${folders}`,
    );
  }
  await installNpmPackages();
  const copy = mkdtempSync(join(tmpdir(), 'oquel-mutants-'));
  try {
    return tryAll(copy, folder, Number(count), Number(seed));
  } finally {
    rmSync(copy, { recursive: true, force: true });
  }
});

function tryAll(copy, folder, count, seed) {
  copyProject(copy);
  const all = filesIn(join(copy, 'packages/core/src', folder)).flatMap((file) => {
    const text = readFileSync(file, 'utf8');
    return mutantsOf(text).map((mutant) => ({ file, text, mutant }));
  });
  const drawn = draw(all, count, seed);
  say(`${all.length} mutants of ${folder}, of which ${drawn.length} are tried`);
  if (!passes(copy, folder)) throw new Trouble('The tests fail without any mutant.', 'npm test -- unit');
  const survivors = [];
  for (const [i, { file, text, mutant }] of drawn.entries()) {
    writeFileSync(file, mutated(text, mutant));
    const isKilled = !passes(copy, folder);
    writeFileSync(file, text);
    const where = `${file.slice(join(copy, 'packages/core/src/').length)}:${mutant.line}`;
    const what = `${where}  ${oneLine(mutant.was)}  ->  ${oneLine(mutant.to)}`;
    if (!isKilled) survivors.push(what);
    say(`${String(i + 1).padStart(4)} ${isKilled ? 'killed  ' : 'SURVIVED'} ${what}`);
  }
  const killed = drawn.length - survivors.length;
  say(`${killed} of ${drawn.length} killed (${((100 * killed) / drawn.length).toFixed(0)} %); survivors:`);
  for (const what of survivors) say(`  ${what}`);
  return 0;
}

function copyProject(copy) {
  const files = execFileSync('git', ['ls-files', '-z'], { cwd: ROOT, encoding: 'utf8' }).split('\0');
  for (const file of files.filter((f) => /^(packages|demo|docs|package\.json|jest\.config)/.test(f))) {
    mkdirSync(dirname(join(copy, file)), { recursive: true });
    cpSync(join(ROOT, file), join(copy, file));
  }
  // Jest wants to find all its roots.
  for (const folder of ['apps', 'scripts']) mkdirSync(join(copy, folder), { recursive: true });
  symlinkSync(join(ROOT, 'node_modules'), join(copy, 'node_modules'));
}
function filesIn(folder) {
  return readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.ts'))
    .sort()
    .map((name) => join(folder, name));
}
/** Some of a list by a linear congruential generator, in the order of the list. */
function draw(list, count, seed) {
  let state = seed;
  const next = () => (state = (state * 1103515245 + 12345) % 2 ** 31) / 2 ** 31;
  const numbered = list.map((item, i) => ({ item, i, key: next() }));
  const drawn = numbered.sort((a, b) => a.key - b.key).slice(0, count);
  return drawn.sort((a, b) => a.i - b.i).map(({ item }) => item);
}
function passes(copy, folder) {
  return TESTS[folder].every((names) => {
    const tests = names.map((name) => `packages/core/test/${name}\\.test\\.ts$`);
    const jest = join(ROOT, 'node_modules/jest/bin/jest.js');
    const { status } = spawnSync(process.execPath, [jest, '--bail', '--silent', '--runInBand', ...tests], {
      cwd: copy,
      stdio: 'ignore',
      timeout: SECONDS * 1000,
      env: { ...process.env, NODE_OPTIONS: '--experimental-vm-modules --no-warnings' },
    });
    return status === 0;
  });
}
function oneLine(text) {
  return text.replace(/\s+/g, ' ').slice(0, 70);
}
