import { join } from 'node:path';
import { ROOT } from './root.mjs';

/** What a backup's folder holds. */
export const DUMP = 'database.dump';
export const LIST = 'projects.json';

/**
 * What a database has: each project with its version, the hash of its document and what its audit finds, and how many edits and
 * builds there are. All of one moment; `meanwhile` is given the name of that moment's snapshot.
 */
export async function inventory(url, meanwhile = async () => undefined) {
  const server = join(ROOT, 'apps/server/dist');
  const { Database } = await import(join(server, 'database/database.js'));
  const { ProjectStore } = await import(join(server, 'projects/project.store.js'));
  const { audit, projectHash } = await import(join(ROOT, 'packages/core/dist/index.js'));
  const { sql } = await import('kysely');
  const db = new Database(url, () => undefined, { connections: 2, statement: 3_600_000 });
  try {
    return await db.k
      .transaction()
      .setIsolationLevel('repeatable read')
      .execute(async (tx) => {
        const { rows } = await sql`select pg_export_snapshot() as name`.execute(tx);
        await meanwhile(rows[0].name);
        const store = new ProjectStore();
        const heads = await tx
          .selectFrom('projects')
          .select(['id', 'name', 'version', 'state'])
          .orderBy('id')
          .execute();
        const projects = [];
        for (const head of heads) {
          const { project } = await store.openAt(tx, head.id, head.version);
          const { summary, metrics } = audit(project, { today: '2000-01-01' });
          projects.push({ ...head, hash: await projectHash(project), summary, metrics });
        }
        const count = async (table) =>
          Number(
            (
              await tx
                .selectFrom(table)
                .select((q) => q.fn.countAll().as('n'))
                .executeTakeFirstOrThrow()
            ).n,
          );
        return {
          format: 'oquel.backup/1',
          projects,
          edits: await count('edits'),
          builds: await count('builds'),
        };
      });
  } finally {
    await db.close();
  }
}
