import { execFileSync, spawn } from 'node:child_process';
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  realpathSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { basename, dirname, join } from 'node:path';
import { mutantsOf, switched } from './lib/mutate.mjs';
import { installNpmPackages } from './lib/packages.mjs';
import { ROOT } from './lib/root.mjs';
import { runScript, say, Trouble } from './lib/say.mjs';

const CORE = 'packages/core';
const FOLDERS = ['graph', 'audit', 'edit', 'rehearse', 'compare'];
/** A mutant that makes a loop endless is ended when a test file takes so many times its own time, and counts as killed. */
const PATIENCE = 4;
const LEAST_MS = 20_000;
const LOOK_MS = 500;
/** Random tests run on a quarter of their seeds: whoever survives may still fall to the rest. */
const SEEDS = '0.25';

/**
 * Changes a folder of the core in one place at a time and runs the core's tests that come by that place, the quick ones first:
 * whoever survives says what no test would notice.
 * Arguments: folders, separated by commas; how many mutants of each are tried (drawn at random, 100 if it is not said); a seed.
 */
await runScript(async () => {
  const [named = '', count = '100', seed = '1'] = process.argv.slice(2);
  const folders = named.split(',');
  if (!folders.every((folder) => FOLDERS.includes(folder)))
    throw new Trouble(
      'Folders of the core are wanted.',
      `npm run mutants -- FOLDER,... [COUNT] [SEED]; ${FOLDERS.join(', ')}`,
    );
  await installNpmPackages();
  const copy = realpathSync(mkdtempSync(join(tmpdir(), 'oquel-mutants-')));
  try {
    copyProject(copy);
    const mutants = folders.flatMap((folder) => some(copy, folder, Number(count), Number(seed)));
    putIn(mutants);
    await tryAll(copy, folders, mutants);
  } finally {
    rmSync(copy, { recursive: true, force: true });
  }
});

/** Some mutants of a folder, in the order of its files. */
function some(copy, folder, count, seed) {
  const source = join(copy, CORE, 'src');
  const all = filesIn(join(source, folder)).flatMap((file) =>
    mutantsOf(readFileSync(file, 'utf8')).map((mutant) => ({ file, mutant })),
  );
  const drawn = draw(all, count, seed);
  say(`${all.length} mutants of ${folder}, of which ${drawn.length} are tried`);
  return drawn.map(({ file, mutant }) => {
    const where = `${file.slice(source.length + 1)}:${mutant.line}`;
    return { folder, file, mutant, what: `${where}  ${oneLine(mutant.was)}  ->  ${oneLine(mutant.to)}` };
  });
}
/** Puts mutants into their files, all asleep. Each has its place in the list for a number. */
function putIn(mutants) {
  for (const file of new Set(mutants.map((m) => m.file))) {
    const here = mutants.flatMap((m, number) => (m.file === file ? [{ ...m.mutant, number }] : []));
    writeFileSync(file, switched(readFileSync(file, 'utf8'), here));
  }
}

async function tryAll(copy, folders, mutants) {
  const tests = await testsThatReach(copy);
  const survives = mutants.map(() => true);
  const left = [...mutants.keys()];
  let done = 0;
  const work = async () => {
    for (let number = left.shift(); number !== undefined; number = left.shift()) {
      const here = tests.filter((test) => test.reached.has(number));
      survives[number] = here.length === 0 || (await passes(copy, here, number));
      const verdict = !survives[number] ? 'killed  ' : here.length > 0 ? 'SURVIVED' : 'UNTESTED';
      say(`${String(++done).padStart(4)} ${verdict} ${mutants[number].what}`);
    }
  };
  await Promise.all(Array.from({ length: availableParallelism() }, work));
  for (const folder of folders) {
    const tried = [...mutants.keys()].filter((number) => mutants[number].folder === folder);
    const survivors = tried.filter((number) => survives[number]);
    const killed = tried.length - survivors.length;
    const share = ((100 * killed) / tried.length).toFixed(0);
    say(`${folder}: ${killed} of ${tried.length} killed (${share} %); survivors:`);
    for (const number of survivors) say(`  ${mutants[number].what}`);
  }
}

/** The test files, the quickest first, with their time in milliseconds and the mutants that they reach. */
async function testsThatReach(copy) {
  const [lines, report] = [join(copy, 'reached'), join(copy, 'report.json')];
  const args = [`${CORE}/test`, '--json', '--outputFile', report, '--maxWorkers=100%'];
  await jest(copy, args, { OQUEL_REACHED: lines }).ended;
  const { testResults = [] } = JSON.parse(existsSync(report) ? readFileSync(report, 'utf8') : '{}');
  const failed = testResults.filter((test) => test.status !== 'passed').map(({ name }) => basename(name));
  if (failed.length > 0 || testResults.length === 0)
    throw new Trouble(`Tests fail without any mutant: ${failed.join(', ')}.`, 'npm test -- unit');
  const reached = new Map(
    readFileSync(lines, 'utf8')
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line))
      .map((entry) => [entry.file, new Set(entry.reached)]),
  );
  return testResults
    .map(({ name, startTime, endTime }) => ({
      file: name,
      ms: endTime - startTime,
      reached: reached.get(name) ?? new Set(),
    }))
    .sort((a, b) => a.ms - b.ms);
}
async function passes(copy, tests, number) {
  const files = tests.map((test) => test.file);
  const done = join(copy, `done-${number}`);
  const args = ['--bail', '--runInBand', '--testSequencer', join(ROOT, 'scripts/lib/in-given-order.cjs')];
  const env = { OQUEL_MUTANT: String(number), OQUEL_ORDER: files.join(':'), OQUEL_REACHED: done };
  const run = jest(copy, [...args, '--runTestsByPath', ...files], env);
  let [count, since] = [0, performance.now()];
  const watch = setInterval(() => {
    const now = existsSync(done) ? readFileSync(done, 'utf8').split('\n').length - 1 : 0;
    if (now > count) [count, since] = [now, performance.now()];
    const usual = tests[Math.min(count, tests.length - 1)].ms;
    if (performance.now() - since > LEAST_MS + PATIENCE * usual) run.child.kill('SIGKILL');
  }, LOOK_MS);
  const code = await run.ended;
  clearInterval(watch);
  rmSync(done, { force: true });
  return code === 0;
}
/** Runs Jest in the copy; its exit code, or null if it had to be ended. */
function jest(copy, args, env) {
  const program = join(ROOT, 'node_modules/jest/bin/jest.js');
  const setup = ['--silent', '--setupFilesAfterEnv', join(ROOT, 'scripts/lib/mutant-switch.mjs')];
  const child = spawn(process.execPath, [program, ...args, ...setup], {
    cwd: copy,
    stdio: 'ignore',
    env: {
      ...process.env,
      OQUEL_SEEDS: process.env.OQUEL_SEEDS ?? SEEDS,
      NODE_OPTIONS: '--experimental-vm-modules --no-warnings',
      ...env,
    },
  });
  return { child, ended: new Promise((done) => child.on('close', done)) };
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
function oneLine(text) {
  return text.replace(/\s+/g, ' ').slice(0, 70);
}
