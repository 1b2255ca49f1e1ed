import { createHash } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import { MOST_PICTURES, pictureKind } from '@oquel/core';
import { sql } from 'kysely';
import { Database } from '../database/database.js';
import { badRequest, noSuchProject, ProblemError } from '../http/problem.js';

/** Pictures of projects: stored once by what is in them, bounded in number, those that nothing names gone first. */
@Injectable()
export class PicturesService {
  constructor(@Inject(Database) private readonly db: Database) {}

  /**
   * Stores a picture and returns its name; one that is there already is not stored again.
   * @throws ProblemError 400 for what is no picture, 404, 409 where too many are in use
   */
  async store(project: string, bytes: Buffer): Promise<string> {
    const kind = pictureKind(bytes);
    if (kind === null) throw badRequest('a backdrop must be a PNG, JPEG, WebP or SVG picture');
    const name = `${createHash('sha256').update(bytes).digest('hex').slice(0, 32)}.${kind}`;
    await this.db.k.transaction().execute(async (tx) => {
      const { rows } = await sql`select 1 from projects where id = ${project} for share`.execute(tx);
      if (rows.length === 0) throw noSuchProject();
      const kept = await sql<{ name: string; used: boolean }>`
        select name, exists (
          select 1 from assets a where a.project_id = p.project_id and a.body -> 'backdrop' ->> 'picture' = p.name
        ) as used
        from pictures p where project_id = ${project} order by at`.execute(tx);
      if (kept.rows.some((p) => p.name === name)) return;
      if (kept.rows.length >= MOST_PICTURES) {
        const unused = kept.rows.find((p) => !p.used);
        if (!unused) {
          const detail = `the project has ${MOST_PICTURES} pictures in use; remove a backdrop first`;
          throw new ProblemError(409, 'too-many-pictures', 'Too many pictures', detail);
        }
        await tx
          .deleteFrom('pictures')
          .where('project_id', '=', project)
          .where('name', '=', unused.name)
          .execute();
      }
      await tx
        .insertInto('pictures')
        .values({ project_id: project, name, bytes })
        .onConflict((c) => c.doNothing())
        .execute();
    });
    return name;
  }

  /** The bytes of a picture. @throws ProblemError 404 */
  async read(project: string, name: string): Promise<Buffer> {
    const row = await this.db.k
      .selectFrom('pictures')
      .select('bytes')
      .where('project_id', '=', project)
      .where('name', '=', name)
      .executeTakeFirst();
    if (!row) {
      throw new ProblemError(
        404,
        'no-picture',
        'No such picture',
        'this picture is not stored with the project',
      );
    }
    return row.bytes;
  }
}
