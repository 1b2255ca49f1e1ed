import { once } from 'node:events';
import { Injectable } from '@nestjs/common';
import { randomUUID } from 'node:crypto';
import type { Project } from '@oquel/core';
import type { PoolClient } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import type { Database } from '../database/database.js';
import { tooMany } from '../http/problem.js';
import { LIMITS } from '../limits.js';
import { POS_STEP, type ItemTable } from '../database/schema.js';

/** Rows above which the tables are analysed after an import, so that the first edits do not wait for that. */
const ANALYSED = 10_000;

export interface Imported {
  id: string;
  /** Length of its text, about; null where it had been stored before. */
  bytes: number | null;
}

/** Stores whole documents: one transaction, rows by COPY. */
@Injectable()
export class ProjectImport {
  /**
   * Stores a project that has been read and is valid. All or nothing. One that is sent twice with the same key is stored
   * once. `owner` is the account that leads it from then on.
   */
  async store(
    db: Database,
    project: Project,
    key: string | null = null,
    owner: string | null = null,
  ): Promise<Imported> {
    const client = await db.pool.connect();
    try {
      const imported = await this.inTransaction(client, project, key, owner);
      client.release();
      return imported;
    } catch (error) {
      // A connection in the middle of COPY may never answer again; without it the server rolls back by itself.
      client.release(true);
      throw error;
    }
  }

  private async inTransaction(
    client: PoolClient,
    project: Project,
    key: string | null,
    owner: string | null,
  ): Promise<Imported> {
    const id = randomUUID();
    await client.query('begin');
    const { rows: all } = await client.query<{ n: number }>('select count(*)::int as n from projects');
    if (all[0].n >= LIMITS.projects.listed) {
      await client.query('rollback');
      throw tooMany('projects', LIMITS.projects.listed);
    }
    // PostgreSQL's text has no NUL character; the body keeps the name as it is.
    const name = project.name.replaceAll('\0', '');
    const body = JSON.stringify({ ...project, assets: [] });
    const { rowCount } = await client.query(
      'insert into projects (id, name, version, body, key) values ($1, $2, 1, $3, $4) on conflict (key) do nothing',
      [id, name, body, key],
    );
    if (rowCount === 0) {
      const { rows } = await client.query<{ id: string }>('select id from projects where key = $1', [key]);
      await client.query('rollback');
      return { id: rows[0].id, bytes: null };
    }
    if (owner !== null) {
      await client.query("insert into members (project_id, account_id, role) values ($1, $2, 'lead')", [
        id,
        owner,
      ]);
    }
    let bytes = body.length;
    let items = 0;
    const count = (length: number): void => {
      bytes += length;
      items++;
    };
    await copy(client, 'copy assets (project_id, id, pos, body) from stdin', assetRows(id, project, count));
    for (const list of ['placements', 'bindings'] as const) {
      const rows = itemRows(id, project, list, count);
      await copy(client, `copy ${list} (project_id, asset_id, id, pos, body) from stdin`, rows);
    }
    await client.query('update projects set bytes = $2 where id = $1', [id, bytes]);
    await client.query('commit');
    if (items > ANALYSED) await client.query('select oquel_analyze()');
    return { id, bytes };
  }
}

function* assetRows(id: string, project: Project, count: (length: number) => void): Iterable<string> {
  for (const [i, asset] of project.assets.entries()) {
    // The lists stay, empty, where they were: so an absent list, an empty one and the order of properties are kept.
    const bare = { ...asset };
    if (bare.placements) bare.placements = [];
    if (bare.bindings) bare.bindings = [];
    const body = JSON.stringify(bare);
    count(body.length);
    yield `${id}\t${asset.id}\t${i * POS_STEP}\t${escape(body)}\n`;
  }
}
/** Ids are names, in which nothing needs to be escaped. */
function* itemRows(
  id: string,
  project: Project,
  list: ItemTable,
  count: (length: number) => void,
): Iterable<string> {
  for (const asset of project.assets) {
    const head = `${id}\t${asset.id}\t`;
    let pos = 0;
    for (const item of asset[list] ?? []) {
      const body = JSON.stringify(item);
      count(body.length);
      yield `${head}${item.id}\t${pos}\t${escape(body)}\n`;
      pos += POS_STEP;
    }
  }
}

const CHUNK = 256 * 1024;
/** Each chunk is made before it is written, and a failure ends the stream, so that no connection waits for ever. */
async function copy(client: PoolClient, statement: string, rows: Iterable<string>): Promise<void> {
  const stream = client.query(copyFrom(statement));
  // A stream that is ended says its error once more, when nobody waits for it; unheard, that would end the thread.
  stream.on('error', () => undefined);
  const done = once(stream, 'finish');
  done.catch(() => undefined);
  try {
    let chunk = '';
    for (const row of rows) {
      chunk += row;
      if (chunk.length < CHUNK) continue;
      if (!stream.write(chunk)) await Promise.race([once(stream, 'drain'), done]);
      chunk = '';
    }
    stream.end(chunk);
    await done;
  } catch (error) {
    try {
      stream.destroy(error as Error);
    } catch {
      // It cannot say so over a connection that is lost, too; why it was lost is what counts.
    }
    throw error;
  }
}
/** In COPY's text format a backslash is written twice; JSON has no tabs and line ends of its own. */
function escape(json: string): string {
  return json.includes('\\') ? json.replaceAll('\\', '\\\\') : json;
}
