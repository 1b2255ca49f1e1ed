import { readFile } from 'node:fs/promises';
import type { Database } from './database/database.js';
import type { ProjectsService } from './projects/projects.service.js';

/** Loads the demo project if there is no project at all. Several servers may begin at once: one loads it. */
export async function loadDemo(db: Database, projects: ProjectsService, file: string): Promise<void> {
  const lock = await db.pool.connect();
  try {
    await lock.query('select pg_advisory_lock(4780)');
    if ((await projects.list()).length === 0) await projects.import(await readFile(file, 'utf8'));
  } finally {
    await lock.query('select pg_advisory_unlock(4780)').catch(() => undefined);
    lock.release();
  }
}
