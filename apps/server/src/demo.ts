import { applyChanges, readProjectText, type Change } from '@oquel/core';
import { readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { BuildVerdictDto } from './builds/build.dto.js';
import type { BuildsService } from './builds/builds.service.js';
import type { Database } from './database/database.js';
import type { ProjectsService } from './projects/projects.service.js';

/** A frozen build of the demo: what it was, as changes of what it is. */
interface DemoBuild {
  name: string;
  note: string;
  who: string;
  at: string;
  verdicts: (Omit<BuildVerdictDto, 'at'> & { at: string })[];
  changes: Change[];
}

/**
 * Loads the demo project, with the builds in `builds.json` beside it, if there is no project at all. Several servers may
 * begin at once: one loads it.
 */
export async function loadDemo(
  db: Database,
  projects: ProjectsService,
  builds: BuildsService,
  file: string,
): Promise<void> {
  const lock = await db.pool.connect();
  try {
    await lock.query('select pg_advisory_lock(4780)');
    if ((await projects.list()).length > 0) return;
    const text = await readFile(file, 'utf8');
    const frozen = await demoBuilds(join(dirname(file), 'builds.json'));
    const { id } = await projects.import(text);
    const { project } = readProjectText(text);
    for (const { changes, at, verdicts, ...head } of frozen) {
      const document = JSON.stringify(applyChanges(project, changes).project);
      const build = await builds.import(id, document, { ...head, at: new Date(at) });
      for (const said of verdicts) await builds.say(id, build.id, { ...said, at: new Date(said.at) });
    }
  } finally {
    await lock.query('select pg_advisory_unlock(4780)').catch(() => undefined);
    lock.release();
  }
}

/** None where there is no such file. */
async function demoBuilds(file: string): Promise<DemoBuild[]> {
  try {
    return JSON.parse(await readFile(file, 'utf8')) as DemoBuild[];
  } catch (error) {
    if (error instanceof Error && 'code' in error && error.code === 'ENOENT') return [];
    throw error;
  }
}
