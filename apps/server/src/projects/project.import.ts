import { once } from 'node:events';
import { Injectable } from '@nestjs/common';
import { randomUUID } from 'node:crypto';
import type { Project } from '@oquel/core';
import type { PoolClient } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import type { Database } from '../database/database.js';
import { POS_STEP } from '../database/schema.js';

/** Stores whole documents: one transaction, rows by COPY. */
@Injectable()
export class ProjectImport {
  /** Stores a project that has been read and found sound; returns its new id. All or nothing. */
  async store(db: Database, project: Project): Promise<string> {
    const id = randomUUID();
    const client = await db.pool.connect();
    let broken = false;
    try {
      await client.query('begin');
      // PostgreSQL's text has no NUL character; the body keeps the name as it is.
      const name = project.name.replaceAll('\0', '');
      const body = JSON.stringify({ ...project, assets: [] });
      await client.query('insert into projects (id, name, version, body) values ($1, $2, 1, $3)', [
        id,
        name,
        body,
      ]);
      await copy(client, 'copy assets (project_id, id, pos, body) from stdin', assetRows(id, project));
      for (const list of ['placements', 'bindings'] as const) {
        await copy(
          client,
          `copy ${list} (project_id, asset_id, id, pos, body) from stdin`,
          itemRows(id, project, list),
        );
      }
      await client.query('commit');
    } catch (error) {
      broken = await client.query('rollback').then(
        () => false,
        () => true,
      );
      throw error;
    } finally {
      client.release(broken);
    }
    return id;
  }
}

function* assetRows(id: string, project: Project): Iterable<string> {
  for (const [i, asset] of project.assets.entries()) {
    // The lists stay, empty, where they were: so an absent list, an empty one and the order of properties are kept.
    const bare = { ...asset };
    if (bare.placements) bare.placements = [];
    if (bare.bindings) bare.bindings = [];
    yield `${id}\t${asset.id}\t${i * POS_STEP}\t${escape(JSON.stringify(bare))}\n`;
  }
}
/** Ids are names, in which nothing needs to be escaped. */
function* itemRows(id: string, project: Project, list: 'placements' | 'bindings'): Iterable<string> {
  for (const asset of project.assets) {
    const head = `${id}\t${asset.id}\t`;
    let pos = 0;
    for (const item of asset[list] ?? []) {
      yield `${head}${item.id}\t${pos}\t${escape(JSON.stringify(item))}\n`;
      pos += POS_STEP;
    }
  }
}

const CHUNK = 256 * 1024;
async function copy(client: PoolClient, statement: string, rows: Iterable<string>): Promise<void> {
  const stream = client.query(copyFrom(statement));
  const done = once(stream, 'finish');
  done.catch(() => undefined);
  let chunk = '';
  for (const row of rows) {
    chunk += row;
    if (chunk.length < CHUNK) continue;
    if (!stream.write(chunk)) await Promise.race([once(stream, 'drain'), done]);
    chunk = '';
  }
  stream.end(chunk);
  await done;
}
/** In COPY's text format a backslash is written twice; JSON has no tabs and line ends of its own. */
function escape(json: string): string {
  return json.includes('\\') ? json.replaceAll('\\', '\\\\') : json;
}
