import { spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { freePort } from '../../apps/server/test/harness.js';

const START = fileURLToPath(new URL('../start.mjs', import.meta.url));
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
    const env = { ...process.env, NODE_OPTIONS: '', OQUEL_DATA: data, PORT: String(port) };
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

  it('keeps what is stored between starts, also when the database was killed', async () => {
    const first = await Started.at(await freePort()).ready();
    const body = JSON.stringify({ format: 'oquel.project/1', name: 'Kept', assets: [] });
    await fetch(`http://127.0.0.1:${first.port}/api/projects`, { method: 'POST', body });
    process.kill(postmaster()!, 'SIGKILL');
    await pause(300);
    const down = await fetch(`http://127.0.0.1:${first.port}/api/health`);
    expect(down.status).toBe(503);
    await first.stop();
    const again = await Started.at(await freePort()).ready();
    expect((await again.projects()).map((p) => p.name).sort()).toEqual(['Kept', 'Storm over Veyra']);
    expect(await again.stop()).toBe(0);
  });
});
