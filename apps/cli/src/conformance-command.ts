import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Command, InvalidArgumentError, Option } from 'commander';
import { isFolder, UsageError } from './paths.js';
import type { Streams } from './streams.js';

/** The kit that comes with Oquel: beside the bundle in its package, or in the checkout. */
const [KIT] = ['./conformance', '../../../docs/conformance/cases']
  .map((path) => fileURLToPath(new URL(path, import.meta.url)))
  .filter((path, i, all) => i === all.length - 1 || existsSync(path));
/** A case is given up after this time, and its output cut at this size. */
const LIMIT_MS = 60_000;
const LIMIT_BYTES = 64 * 1024 * 1024;

/** `oquel conformance`: runs another runtime on the cases of the kit and compares its traces with the expected ones. */
export function conformanceCommand(streams: Streams, exit: (code: number) => void): Command {
  return new Command('conformance')
    .description('run a runtime on the conformance kit; ends with 1 if one of its traces differs')
    .requiredOption(
      '--run <command>',
      'how to run it: {wiring} is the folder of compiled wiring, {steps} the file with the rehearsals',
      command,
    )
    .addOption(new Option('--cases <folder>', 'a folder of cases').default(KIT, "the kit's own"))
    .option('--only <name>', 'only this case')
    .action(({ run, cases, only }: { run: string; cases: string; only?: string }) => {
      if (!isFolder(cases))
        throw new UsageError(`${cases} is not a folder of cases; say with --cases where they are`);
      const names = readdirSync(cases)
        .filter(
          (name) => existsSync(join(cases, name, 'trace.jsonl')) && (only === undefined || name === only),
        )
        .sort();
      if (names.length === 0)
        throw new UsageError(only === undefined ? `${cases} holds no case` : `there is no case "${only}"`);
      let failed = 0;
      for (const name of names) {
        const fault = faultOf(run, join(cases, name));
        if (fault !== null) failed++;
        streams.out(fault === null ? `ok      ${name}\n` : `FAILED  ${name}: ${fault}\n`);
      }
      streams.out(`${names.length - failed} of ${names.length} cases conform\n`);
      exit(failed === 0 ? 0 : 1);
    });
}

function command(text: string): string {
  for (const part of ['{wiring}', '{steps}']) {
    if (!text.includes(part)) throw new InvalidArgumentError(`the command must contain ${part}`);
  }
  return text;
}

/** What is wrong with a runtime on one case; null if it conforms. */
function faultOf(run: string, folder: string): string | null {
  const line = run
    .replaceAll('{wiring}', quoted(join(folder, 'wiring')))
    .replaceAll('{steps}', quoted(join(folder, 'steps.json')));
  const { status, signal, stdout, stderr, error } = spawnSync(line, {
    shell: true,
    encoding: 'utf8',
    timeout: LIMIT_MS,
    maxBuffer: LIMIT_BYTES,
  });
  if (error) return error.message;
  if (signal) return `it was ended by ${signal} after ${LIMIT_MS / 1000} s`;
  if (status !== 0) return `it ended with ${status}: ${stderr.trim().split('\n').at(-1) ?? ''}`;
  const expected = readFileSync(join(folder, 'trace.jsonl'), 'utf8').split('\n');
  const got = stdout.split('\n');
  const at = expected.findIndex((text, i) => text !== got[i]);
  if (at < 0 && got.length === expected.length) return null;
  const n = at < 0 ? expected.length : at;
  return `line ${n + 1}\n    expected ${expected[n] ?? 'nothing more'}\n    found    ${got[n] ?? 'nothing more'}`;
}
/** For the shell. */
function quoted(path: string): string {
  return `'${path.replaceAll("'", `'\\''`)}'`;
}
