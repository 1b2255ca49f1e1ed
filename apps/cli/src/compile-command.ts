import { existsSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import {
  audit,
  compileSteps,
  expand,
  indexProject,
  WIRING_FILE,
  wiringFiles,
  type Project,
  type WorkStep,
} from '@oquel/core';
import { FORMAT } from '@oquel/runtime';
import { Command } from 'commander';
import { PROJECT_INPUT, readProjectFrom } from './input.js';
import { isFolder, requirePath, UsageError } from './paths.js';
import { writeFile } from './project-folder.js';
import { sha256 } from './sha256.js';
import type { Streams } from './streams.js';
import { orExplain } from './too-large.js';

interface Flags {
  out: string;
  scene: string[];
  check?: boolean;
  gate?: boolean;
}

/** `oquel compile`: writes what a game needs to run the wiring, or checks that what is there is up to date. */
export function compileCommand(streams: Streams, exit: (code: number) => void): Command {
  return new Command('compile')
    .description(`compile the wiring for a game (${FORMAT}): ${WIRING_FILE} and a file for each scene`)
    .argument('<file>', PROJECT_INPUT)
    .requiredOption('--out <folder>', 'where to write')
    .option('--scene <name>', 'only this scene; may be repeated', (name, all: string[]) => [...all, name], [])
    .option('--check', 'write nothing; end with 1 if the files are not those of the project')
    .option('--gate', 'write nothing and end with 1 if the audit stops the build')
    .action((file: string, { out, scene, check, gate }: Flags) => {
      requirePath(out, 'the folder to write');
      const { project } = readProjectFrom(file, streams);
      requireScenes(project, scene);
      if (gate && stops(project, file)) {
        streams.err(`The gate stops ${file}; nothing is written. See: oquel audit ${file}\n`);
        exit(1);
        return;
      }
      requireOwn(out);
      streams.doing('compiling');
      const compiled = orExplain(
        () =>
          reportingProgress(
            streams,
            compileSteps(expand(indexProject(project)), {
              sha256,
              ...(scene.length > 0 ? { scenes: scene } : {}),
            }),
          ),
        file,
      );
      const files = new Map(wiringFiles(compiled));
      if (check) {
        const stale = staleIn(out, files, scene.length === 0);
        for (const line of stale) streams.err(`${line}\n`);
        streams.err(stale.length === 0 ? `${out} is up to date.\n` : `${out} is not that of ${file}.\n`);
        exit(stale.length === 0 ? 0 : 1);
        return;
      }
      const gone = scene.length === 0 ? leftOver(out, files) : [];
      for (const [path, text] of files) writeFile(join(out, path), text);
      for (const path of gone) rmSync(join(out, path));
      const bindings = compiled.scenes.reduce((n, s) => n + s.bindings.owner.length, 0);
      streams.err(
        `${out} is written: ${compiled.scenes.length} scenes, ${bindings} bindings, hash ${compiled.project.hash}.\n`,
      );
    });
}

/** Milliseconds between two words of how far it is. */
const PROGRESS_MS = 2000;
/** Does work in steps, and says now and then how far it is. */
function reportingProgress<T>(streams: Streams, work: Generator<WorkStep, T>): T {
  let said = performance.now();
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
    if (performance.now() - said < PROGRESS_MS) continue;
    said = performance.now();
    const { doing, done, of } = step.value;
    streams.err(`${doing} (${done} of ${of}) ...\n`);
  }
}

function stops(project: Project, file: string): boolean {
  const today = new Date().toISOString().slice(0, 10);
  return orExplain(() => audit(project, { today }), file).gate === 'stop';
}
/** @throws UsageError */
function requireScenes(project: Project, wanted: readonly string[]): void {
  const scenes = project.assets.filter((a) => a.kind === 'scene').map((a) => a.id);
  const missing = wanted.find((name) => !scenes.includes(name));
  if (missing === undefined) return;
  throw new UsageError(`there is no scene "${missing}"; the project has ${scenes.join(', ') || 'none'}`);
}
/** Only a folder that is empty or holds compiled wiring is written to. @throws UsageError */
function requireOwn(out: string): void {
  if (!existsSync(out)) return;
  if (!isFolder(out)) throw new UsageError(`${out} is a file; give the name of a folder`);
  const head = join(out, WIRING_FILE);
  if (!existsSync(head)) {
    if (readdirSync(out).length === 0) return;
    throw new UsageError(`${out} holds other things and no ${WIRING_FILE}; give an empty folder`);
  }
  if (formatOf(head) !== FORMAT) throw new UsageError(`${head} is not compiled wiring (${FORMAT})`);
}
function formatOf(file: string): unknown {
  try {
    return (JSON.parse(readFileSync(file, 'utf8')) as { format?: unknown }).format;
  } catch {
    return undefined;
  }
}

/** Files of scenes that an earlier compilation has left. */
function leftOver(out: string, files: ReadonlyMap<string, string>): string[] {
  const head = join(out, WIRING_FILE);
  if (!existsSync(head)) return [];
  const { scenes } = JSON.parse(readFileSync(head, 'utf8')) as { scenes: { scene: string }[] };
  return scenes
    .map(({ scene }) => `scenes/${scene}.json`)
    .filter(
      (path) =>
        /^scenes\/[A-Za-z0-9_-]+\.json$/.test(path) && !files.has(path) && existsSync(join(out, path)),
    );
}
/** What differs from the files that would be written, a line each. */
function staleIn(out: string, files: ReadonlyMap<string, string>, whole: boolean): string[] {
  const stale: string[] = [];
  for (const [path, text] of files) {
    const file = join(out, path);
    if (!existsSync(file)) stale.push(`${file} is missing`);
    else if (readFileSync(file, 'utf8') !== text) stale.push(`${file} differs`);
  }
  if (whole)
    for (const path of leftOver(out, files))
      stale.push(`${join(out, path)} is not part of the project any more`);
  return stale;
}
