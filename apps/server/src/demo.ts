import { applyChanges, readProjectText, type Change } from '@oquel/core';
import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { BuildVerdictDto } from './builds/build.dto.js';
import type { BuildsService } from './builds/builds.service.js';
import type { Database } from './database/database.js';
import { writeDifference } from './edits/edit.rows.js';
import { sql } from 'kysely';

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
 * Loads the demo project, with the builds in `builds.json` beside it, if there is no project at all; all in one
 * transaction. Several servers may begin at once: one loads it.
 */
export async function loadDemo(db: Database, builds: BuildsService, file: string): Promise<void> {
  const text = await readFile(file, 'utf8');
  const frozen = await demoBuilds(join(dirname(file), 'builds.json'));
  await db.k.transaction().execute(async (tx) => {
    await sql`select pg_advisory_xact_lock(4780)`.execute(tx);
    if (await tx.selectFrom('projects').select('id').limit(1).executeTakeFirst()) return;
    const { project } = readProjectText(text);
    const id = randomUUID();
    const empty = { ...project, assets: [] };
    const row = { id, name: project.name, version: 1, body: JSON.stringify(empty), bytes: text.length };
    await tx.insertInto('projects').values(row).execute();
    await writeDifference(tx, id, empty, project);
    for (const { changes, at, verdicts, ...head } of frozen) {
      const document = applyChanges(project, changes).project;
      const build = await builds.add(tx, id, document, { ...head, at: new Date(at), version: null });
      for (const said of verdicts) await builds.saySo(tx, id, build, { ...said, at: new Date(said.at) });
    }
  });
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
