import {
  coverageCobertura,
  coverageLcov,
  indexProject,
  locate,
  type Project,
  type ServedCounts,
} from '@oquel/core';
import type { Command } from 'commander';
import { artifactOf } from './artifact.js';
import { textsOf } from './input.js';
import { writeFile } from './project-folder.js';

export interface CoverageFlags {
  lcov?: string;
  cobertura?: string;
}

/** The options by which a command writes which bindings have served. */
export function addCoverageOptions(command: Command): Command {
  return command
    .option('--lcov <file>', 'write which bindings have served as LCOV, by the lines where they are written')
    .option('--cobertura <file>', 'the same as Cobertura XML');
}
/** Writes what is asked for. @throws UsageError */
export function writeCoverage(
  project: Project,
  path: string,
  served: ServedCounts,
  flags: CoverageFlags,
): void {
  const { lcov, cobertura } = flags;
  if (lcov === undefined && cobertura === undefined) return;
  const index = indexProject(project);
  const bindings = project.assets.flatMap((a) =>
    (a.bindings ?? []).map((b) => ({ asset: a.id, binding: b.id })),
  );
  const options = { artifact: artifactOf(path), places: locate(index, [], textsOf(path), bindings) };
  if (lcov !== undefined) writeFile(lcov, coverageLcov(index, served, options));
  if (cobertura !== undefined) writeFile(cobertura, coverageCobertura(index, served, Date.now(), options));
}
