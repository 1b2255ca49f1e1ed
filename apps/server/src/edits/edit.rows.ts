import { setImmediate } from 'node:timers/promises';
import type { Asset, ListName, Project } from '@oquel/core';
import { sql, type RawBuilder } from 'kysely';
import type { Tx } from '../database/database.js';
import { POS_STEP } from '../database/schema.js';
import { between, listChange, type ListChange } from './item-order.js';

const LISTS: readonly ListName[] = ['placements', 'bindings'];
/** Rows in one statement: so many that PostgreSQL looks through a table but few times, and nobody waits for long. */
const CHUNK = 20_000;

/**
 * Writes the difference between two states of a project to its rows, a few statements for each table however many rows
 * change. Returns by how much the stored text has grown. Cost: what differs, and a comparison by identity of the lists
 * that were touched.
 */
export async function writeDifference(tx: Tx, id: string, before: Project, after: Project): Promise<number> {
  const rows = new RowWriter(tx, id);
  let grown = await rows.project(before, after);
  const old = new Map(before.assets.map((a) => [a.id, a]));
  const now = new Set(after.assets.map((a) => a.id));
  await rows.removeAssets(before.assets.filter((a) => !now.has(a.id)).map((a) => a.id));
  grown += await rows.assets(before.assets, after.assets);
  for (const list of LISTS) {
    const changes: TouchedList[] = [];
    for (const asset of after.assets) {
      const was: readonly Item[] = old.get(asset.id)?.[list] ?? [];
      const is: readonly Item[] = asset[list] ?? [];
      if (was !== is) changes.push({ asset: asset.id, items: is, change: listChange(was, is), was });
    }
    if (changes.length > 0) grown += await rows.items(list, changes);
  }
  return grown;
}

interface Item {
  id: string;
}
interface TouchedList {
  asset: string;
  items: readonly Item[];
  was: readonly Item[];
  change: ListChange;
}
/** Positions by item, `asset/id`. */
type Positions = Map<string, number>;

class RowWriter {
  constructor(
    private readonly tx: Tx,
    private readonly id: string,
  ) {}

  /** The project without its assets. */
  async project(before: Project, after: Project): Promise<number> {
    if (!differ(projectHead(before), projectHead(after))) return 0;
    // PostgreSQL's text has no NUL character; the body keeps the name as it is.
    const name = after.name.replaceAll('\0', '');
    const body = JSON.stringify(projectHead(after));
    await this.tx.updateTable('projects').set({ name, body }).where('id', '=', this.id).execute();
    return body.length - JSON.stringify(projectHead(before)).length;
  }

  async removeAssets(ids: readonly string[]): Promise<void> {
    if (ids.length === 0) return;
    await sql`delete from assets where project_id = ${this.id} and id = any(${ids}::text[])`.execute(this.tx);
  }

  /** Assets without their lists: new ones, changed ones, and where they stand. */
  async assets(was: readonly Asset[], is: readonly Asset[]): Promise<number> {
    if (was === is) return 0;
    const change = listChange(was, is);
    const old = new Map(was.map((a) => [a.id, a]));
    const changed = change.replaced.filter((a) => differ(assetHead(old.get(a.id)!), assetHead(a as Asset)));
    const bodies = new Map([...change.added, ...changed].map((a) => [a.id, bodyOf(a as Asset)]));
    const positions = await this.assetPositions(change, is);
    const added = change.added.map((a) => [a.id, bodies.get(a.id)!, positions.get(a.id)!] as const);
    await this.inChunks(added, (rows) => {
      const [ids, texts, pos] = columns(rows);
      return sql`insert into assets (project_id, id, body, pos)
        select ${this.id}, v.id, v.body::json, v.pos from unnest(${ids}::text[], ${texts}::text[], ${pos}::bigint[]) v(id, body, pos)`;
    });
    await this.inChunks(
      changed.map((a) => [a.id, bodies.get(a.id)!] as const),
      (rows) => {
        const [ids, texts] = columns(rows);
        return sql`update assets t set body = v.body::json from unnest(${ids}::text[], ${texts}::text[]) v(id, body)
          where t.project_id = ${this.id} and t.id = v.id`;
      },
    );
    const fresh = new Set(change.added.map((a) => a.id));
    await this.inChunks(
      [...positions].filter(([id]) => !fresh.has(id)),
      (rows) => {
        const [ids, pos] = columns(rows);
        return sql`update assets t set pos = v.pos from unnest(${ids}::text[], ${pos}::bigint[]) v(id, pos)
          where t.project_id = ${this.id} and t.id = v.id`;
      },
    );
    return sum(
      [...bodies].map(([id, text]) => text.length - (old.has(id) ? bodyOf(old.get(id)!).length : 0)),
    );
  }
  private async assetPositions(change: ListChange, is: readonly Asset[]): Promise<Map<string, number>> {
    if (change.runs.length === 0) return new Map();
    const ids = neighbours(change);
    const rows = await this.tx
      .selectFrom('assets')
      .select(['id', 'pos'])
      .where('project_id', '=', this.id)
      .where(sql<boolean>`id = any(${ids}::text[])`)
      .execute();
    return placed(change, is, new Map(rows.map((r) => [r.id, Number(r.pos)])));
  }

  /** The rows of one table, for all the lists that were touched. */
  async items(table: ListName, lists: readonly TouchedList[]): Promise<number> {
    const gone = lists.flatMap(({ asset, change }) => change.gone.map((id) => [asset, id] as const));
    await this.inChunks(gone, (rows) => {
      const [assets, ids] = columns(rows);
      return sql`delete from ${sql.table(table)} t using unnest(${assets}::text[], ${ids}::text[]) v(asset, id)
        where t.project_id = ${this.id} and t.asset_id = v.asset and t.id = v.id`;
    });
    const positions = await this.positions(table, lists);
    const added = lists.flatMap(({ asset, change }) =>
      change.added.map(
        (item) => [asset, item.id, JSON.stringify(item), positions.get(`${asset}/${item.id}`)!] as const,
      ),
    );
    await this.withBodies(
      added,
      (v) => sql`insert into ${sql.table(table)} (project_id, asset_id, id, body, pos)
        select ${this.id}, v.a, v.i, v.b, v.p from ${v}`,
    );
    const replaced = lists.flatMap(({ asset, change }) =>
      change.replaced.map((item) => [asset, item.id, JSON.stringify(item), 0] as const),
    );
    await this.withBodies(
      replaced,
      (v) => sql`update ${sql.table(table)} t set body = v.b from ${v}
        where t.project_id = ${this.id} and t.asset_id = v.a and t.id = v.i`,
    );
    const isNew = new Set(added.map(([asset, id]) => `${asset}/${id}`));
    const moved = [...positions].filter(([at]) => !isNew.has(at));
    await this.inChunks(
      moved.map(([at, pos]) => [...(at.split('/') as [string, string]), pos] as const),
      (rows) => {
        const [assets, ids, pos] = columns(rows);
        return sql`update ${sql.table(table)} t set pos = v.pos
          from unnest(${assets}::text[], ${ids}::text[], ${pos}::bigint[]) v(asset, id, pos)
          where t.project_id = ${this.id} and t.asset_id = v.asset and t.id = v.id`;
      },
    );
    const left = lists.flatMap(({ was, change }) => {
      const ids = new Set([...change.gone, ...change.replaced.map((item) => item.id)]);
      return ids.size === 0
        ? []
        : was.filter((item) => ids.has(item.id)).map((item) => JSON.stringify(item).length);
    });
    return sum(added.map((r) => r[2].length)) + sum(replaced.map((r) => r[2].length)) - sum(left);
  }
  /** Where items that are new, or have moved, stand. A list without room is numbered anew. */
  private async positions(table: ListName, lists: readonly TouchedList[]): Promise<Positions> {
    const asked = lists.flatMap(({ asset, change }) => neighbours(change).map((id) => [asset, id] as const));
    const known: Positions = new Map();
    for (let i = 0; i < asked.length; i += CHUNK) {
      const part = asked.slice(i, i + CHUNK);
      const [assets, ids] = columns(part);
      // One row for all: what the driver does for each row takes longer than the look-up.
      const { rows } = await sql<{ all: string | null }>`
        select string_agg(v.n || ' ' || t.pos, ',') as all from ${sql.table(table)} t
        join unnest(${assets}::text[], ${ids}::text[]) with ordinality v(asset, id, n)
          on t.asset_id = v.asset and t.id = v.id
        where t.project_id = ${this.id}`.execute(this.tx);
      for (const one of rows[0].all?.split(',') ?? []) {
        const [n, pos] = one.split(' ');
        known.set(part[Number(n) - 1].join('/'), Number(pos));
      }
    }
    const found: Positions = new Map();
    for (const { asset, items, change } of lists) {
      if (change.runs.length === 0) continue;
      const own = new Map(neighbours(change).map((id) => [id, known.get(`${asset}/${id}`)!]));
      for (const [id, pos] of placed(change, items, own)) found.set(`${asset}/${id}`, pos);
    }
    return found;
  }

  /** A statement over rows `v` with asset `a`, id `i`, body `b` and position `p`. */
  private async withBodies(
    rows: readonly BodyRow[],
    statement: (v: RawBuilder<unknown>) => RawBuilder<unknown>,
  ): Promise<void> {
    await this.inChunks(rows, (part) => {
      const [assets, ids, bodies, positions] = columns(part);
      return statement(
        sql`unnest(${assets}::text[], ${ids}::text[], ${arrayOf(bodies)}::json[], ${positions}::bigint[]) as v(a, i, b, p)`,
      );
    });
  }
  private async inChunks<R>(
    rows: readonly R[],
    statement: (rows: readonly R[]) => RawBuilder<unknown>,
  ): Promise<void> {
    let running: Promise<unknown> = Promise.resolve();
    for (let i = 0; i < rows.length; i += CHUNK) {
      const next = statement(rows.slice(i, i + CHUNK));
      await running;
      running = next.execute(this.tx);
      // A refusal is heard at the next turn, not before.
      running.catch(() => {});
      // It is sent before the next one is put together.
      await setImmediate();
    }
    await running;
  }
}

/** Positions of all that need one, by id. */
function placed(
  change: ListChange,
  items: readonly Item[],
  known: ReadonlyMap<string, number>,
): Map<string, number> {
  const found = new Map<string, number>();
  for (const { ids, after, before } of change.runs) {
    const at = (id: string | null): number | null => (id === null ? null : known.get(id)!);
    const room = between(at(after), at(before), ids.length);
    if (!room) return new Map(items.map((item, i) => [item.id, i * POS_STEP]));
    ids.forEach((id, i) => found.set(id, room[i]));
  }
  return found;
}
/** Items that keep their position beside one that gets a new one. */
function neighbours(change: ListChange): string[] {
  return [...new Set(change.runs.flatMap((run) => [run.after, run.before].filter((id) => id !== null)))];
}

function projectHead(project: Project): Project {
  return { ...project, assets: [] };
}
/** The lists stay, empty, where they are: so the order of an asset's parts is kept. */
function assetHead(asset: Asset): Asset {
  const bare = { ...asset };
  if (bare.placements) bare.placements = [];
  if (bare.bindings) bare.bindings = [];
  return bare;
}
function bodyOf(asset: Asset): string {
  return JSON.stringify(assetHead(asset));
}
/** Parts that an edit does not touch are the very same, so most are not looked into. */
function differ<T extends object>(a: T, b: T): boolean {
  const names = Object.keys(a);
  if (names.join() !== Object.keys(b).join()) return true;
  return names.some((name) => {
    const [x, y] = [a[name as keyof T], b[name as keyof T]];
    return x !== y && JSON.stringify(x) !== JSON.stringify(y);
  });
}
type BodyRow = readonly [asset: string, id: string, body: string, pos: number];
/**
 * JSON texts as an array of PostgreSQL: quoted as JSON quotes them, since all that is left to escape in such a text are quotes
 * and backslashes.
 */
function arrayOf(texts: readonly string[]): string {
  return `{${texts.map((text) => JSON.stringify(text)).join()}}`;
}
/** Rows turned into columns, as `unnest` takes them. */
function columns<R extends readonly unknown[]>(rows: readonly R[]): { -readonly [C in keyof R]: R[C][] } {
  const width = rows[0]?.length ?? 0;
  return Array.from({ length: width }, (_, c) => rows.map((row) => row[c])) as never;
}
function sum(numbers: readonly number[]): number {
  return numbers.reduce((a, b) => a + b, 0);
}
