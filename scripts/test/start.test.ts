import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import {
  chmodSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import pg from 'pg';
import { freePort } from '../../apps/server/test/harness.js';

const START = fileURLToPath(new URL('../start.mjs', import.meta.url));
const SOCKETS = new URL('../lib/socket-folder.mjs', import.meta.url).href;
const PROGRAMS = new URL('../lib/postgres-programs.mjs', import.meta.url).href;
let data: string;
let running: Started[] = [];
beforeAll(() => {
  data = mkdtempSync(join(tmpdir(), 'oquel-start-test-'));
  // As root the database belongs to an unprivileged user, who must be able to reach it.
  chmodSync(data, 0o755);
});
afterAll(async () => {
  for (const s of running) await s.stop();
  rmSync(data, { recursive: true, force: true });
});

/** `npm start` as a person runs it, with its own data. */
class Started {
  said = '';
  readonly ended: Promise<number>;
  private constructor(
    readonly port: number,
    readonly process: ChildProcess,
  ) {
    process.stdout!.on('data', (chunk: Buffer) => (this.said += String(chunk)));
    process.stderr!.on('data', (chunk: Buffer) => (this.said += String(chunk)));
    this.ended = new Promise((resolve) => process.once('exit', (code) => resolve(code ?? -1)));
  }
  static at(port: number | string): Started {
    const env = {
      ...process.env,
      NODE_OPTIONS: '',
      OQUEL_DATA: data,
      PORT: String(port),
      LOG_LEVEL: 'fatal',
    };
    const started = new Started(
      Number(port),
      spawn(process.execPath, [START], { env, stdio: ['ignore', 'pipe', 'pipe'] }),
    );
    running.push(started);
    return started;
  }
  async ready(): Promise<this> {
    for (let i = 0; i < 600 && !this.said.includes('Oquel is at'); i++) {
      if (this.process.exitCode !== null) throw new Error(this.said);
      await pause(100);
    }
    return this;
  }
  async says(wanted: RegExp): Promise<void> {
    for (let i = 0; i < 600 && !wanted.test(this.said); i++) await pause(100);
    expect(this.said).toMatch(wanted);
  }
  health(): Promise<number> {
    return fetch(`http://127.0.0.1:${this.port}/api/health`).then(
      (r) => r.status,
      () => 0,
    );
  }
  async stop(): Promise<number> {
    running = running.filter((s) => s !== this);
    if (this.process.exitCode === null) this.process.kill('SIGINT');
    return this.ended;
  }
  projects(): Promise<{ id: string; name: string }[]> {
    return fetch(`http://127.0.0.1:${this.port}/api/projects`).then(
      (r) => r.json() as Promise<{ id: string; name: string }[]>,
    );
  }
}
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
const postmaster = (): number | null => {
  try {
    return Number(readFileSync(join(data, 'postgres/data/postmaster.pid'), 'utf8').split('\n')[0]);
  } catch {
    return null;
  }
};

describe('npm start', () => {
  it('says why it cannot start, and what to do', async () => {
    const taken = createServer();
    const port = await new Promise<number>((resolve) =>
      taken.listen(0, '127.0.0.1', () => resolve((taken.address() as { port: number }).port)),
    );
    const blocked = Started.at(port);
    expect(await blocked.ended).toBe(1);
    expect(blocked.said).toMatch(new RegExp(`Port ${port} is taken.*\n.*PORT=${port + 1} npm start`));
    taken.close();
    const wrong = Started.at('eighty');
    expect(await wrong.ended).toBe(1);
    expect(wrong.said).toMatch(/PORT is "eighty"/);
  });

  it('serves the demo, is found running by a second start, and stops all that it started', async () => {
    const first = await Started.at(await freePort()).ready();
    expect((await first.projects()).map((p) => p.name)).toEqual(['Storm over Veyra']);
    const page = await fetch(`http://127.0.0.1:${first.port}/p/anything/wire`);
    expect(page.headers.get('content-type')).toMatch(/html/);
    const second = await Started.at(await freePort()).ready();
    expect(second.said).toContain('PostgreSQL was running already');
    expect(await second.projects()).toEqual(await first.projects());
    expect(await second.stop()).toBe(0);
    expect(await first.projects()).toHaveLength(1);
    expect(await first.stop()).toBe(0);
    expect(first.said).toMatch(/Stopped\.\s*$/);
    expect(postmaster()).toBeNull();
    await expect(first.projects()).rejects.toThrow();
  });

  it('starts the server again when it is killed, and the database, and keeps what is stored', async () => {
    const first = await Started.at(await freePort()).ready();
    const body = JSON.stringify({ format: 'oquel.project/1', name: 'Kept', assets: [] });
    await fetch(`http://127.0.0.1:${first.port}/api/projects`, { method: 'POST', body });
    const serverPid = (): number =>
      (JSON.parse(readFileSync(join(data, `server-${first.port}.json`), 'utf8')) as { pid: number }).pid;
    const before = serverPid();
    process.kill(before, 'SIGKILL');
    await first.says(/The server ended by itself \(SIGKILL\); it is started again/);
    await first.says(/Oquel is again at/);
    expect(serverPid()).not.toBe(before);
    expect(await first.projects()).toHaveLength(2);
    process.kill(postmaster()!, 'SIGKILL');
    await first.says(/PostgreSQL ended by itself .*; it is started again/);
    for (let i = 0; i < 300 && (await first.health()) !== 200; i++) await pause(100);
    expect((await first.projects()).map((p) => p.name).sort()).toEqual(['Kept', 'Storm over Veyra']);
    expect(await first.stop()).toBe(0);
    expect(postmaster()).toBeNull();
  });

  it('ends a server that was left behind by a start that was killed', async () => {
    const port = await freePort();
    const first = await Started.at(port).ready();
    first.process.kill('SIGKILL');
    await first.ended;
    expect(await first.health()).toBe(200);
    const next = await Started.at(port).ready();
    expect(next.said).toMatch(/A server of an earlier start \(process \d+\) was left running; it is ended/);
    expect(await next.projects()).toHaveLength(2);
    expect(await next.stop()).toBe(0);
    expect(postmaster()).toBeNull();
  });

  it('serves as a role that owns nothing and is no superuser, and not as root', async () => {
    const first = await Started.at(await freePort()).ready();
    const { pid } = JSON.parse(readFileSync(join(data, `server-${first.port}.json`), 'utf8')) as {
      pid: number;
    };
    const status = readFileSync(`/proc/${pid}/status`, 'utf8');
    expect(Number(/^Uid:\s+(\d+)/m.exec(status)![1])).not.toBe(0);
    const url = readFileSync(`/proc/${pid}/environ`, 'utf8')
      .split('\0')
      .find((v) => v.startsWith('DATABASE_URL='))!
      .slice('DATABASE_URL='.length);
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    const { rows } = await client.query<{ super: boolean; owns: string }>(
      `select rolsuper as super, (select count(*) from pg_class where relowner = pg_roles.oid)::text as owns
       from pg_roles where rolname = current_user`,
    );
    expect(rows).toEqual([{ super: false, owns: '0' }]);
    await expect(client.query('drop table projects')).rejects.toThrow(/must be owner/);
    await expect(client.query('create table mine (a int)')).rejects.toThrow(/permission denied/);
    await client.query('select oquel_analyze()');
    await client.end();
    expect(await first.stop()).toBe(0);
  });
});

describe('the folder for the database’s socket', () => {
  const folderFor = (dir: string): string => {
    const code = `import(${JSON.stringify(SOCKETS)}).then((m) => console.log(m.socketFolder(${JSON.stringify(dir)})))`;
    return execFileSync(process.execPath, ['-e', code], { encoding: 'utf8' }).trim();
  };
  it('is another one where somebody has made it first, or set a link in its place; and stays the same then', () => {
    const dir = mkdtempSync(join(tmpdir(), 'oquel-sockets-'));
    const first = folderFor(dir);
    expect(folderFor(dir)).toBe(first);
    rmSync(first, { recursive: true });
    symlinkSync('/etc', first);
    const second = folderFor(dir);
    expect(second).not.toBe(first);
    expect(lstatSync(second).isDirectory()).toBe(true);
    expect(folderFor(dir)).toBe(second);
    rmSync(first);
    chmodSync(second, 0o777);
    const third = folderFor(dir);
    expect([first, second]).not.toContain(third);
    for (const path of [dir, second, third]) rmSync(path, { recursive: true });
  });
});

describe('data of another version of PostgreSQL', () => {
  it('are refused with what to do', () => {
    const dir = mkdtempSync(join(tmpdir(), 'oquel-version-'));
    mkdirSync(join(dir, 'data'));
    writeFileSync(join(dir, 'data/PG_VERSION'), '99\n');
    const code = `import(${JSON.stringify(PROGRAMS)}).then((m) => m.programsFor(${JSON.stringify(join(dir, 'data'))}, 'there')).catch((e) => console.log(e.message))`;
    const said = execFileSync(process.execPath, ['-e', code], { encoding: 'utf8' });
    expect(said).toMatch(/made by PostgreSQL 99; here there is \d+[^]*apt-get install postgresql-99/);
    rmSync(dir, { recursive: true });
  });
});
