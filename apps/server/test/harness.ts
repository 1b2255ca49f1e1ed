import { spawn, type ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { createServer } from 'node:net';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { PROBLEM_TYPES } from '../src/http/problem-types.js';

const MAIN = fileURLToPath(new URL('../../../dist/server/main.js', import.meta.url));
export const DEMO = fileURLToPath(new URL('../../../demo/storm-over-veyra.json', import.meta.url));

/** A database of its own in the PostgreSQL that `npm test` has started. */
export async function newDatabase(): Promise<string> {
  const admin = process.env.OQUEL_TEST_POSTGRES;
  if (!admin) throw new Error('run these tests by `npm test`, which starts PostgreSQL');
  const name = `t_${randomBytes(6).toString('hex')}`;
  const client = new pg.Client({ connectionString: admin });
  await client.connect();
  await client.query(`create database ${name}`);
  await client.end();
  return admin.replace(/\/[^/]*$/, `/${name}`);
}

export function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });
}

export interface Answer {
  status: number;
  type: string;
  // What the server says is what these tests look at, so its shape is left open.
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  body: any;
  text: string;
  headers: Headers;
}

/** Every problem that any test meets must stand on the page about them, with its status. */
function isDocumented({ type, status }: { type: string; status: number }): void {
  const kind = (PROBLEM_TYPES as Record<string, { status: number | readonly number[] } | undefined>)[
    type.replace('urn:oquel:problem:', '')
  ];
  if (!kind || ![kind.status].flat().includes(status)) {
    throw new Error(`the problem ${type} with status ${status} is not documented`);
  }
}

/** Servers that a test has not stopped, be it that it failed: they would keep the tests from ending. */
const running = new Set<ChildProcess>();
// The browser tests use this file, too; they end their servers with their own.
(globalThis as { afterAll?: (end: () => void) => void }).afterAll?.(() => {
  for (const child of running) child.kill('SIGKILL');
});

/** The built server as its own process, as `npm start` runs it. */
export class TestServer {
  /** What it has printed. */
  private said = '';

  private constructor(
    readonly url: string,
    readonly process: ChildProcess,
    readonly databaseUrl: string,
  ) {}

  static async start(databaseUrl: string, env: Record<string, string> = {}): Promise<TestServer> {
    const port = env.PORT ?? String(await freePort());
    const child = spawn(process.execPath, [MAIN], {
      env: {
        ...process.env,
        NODE_OPTIONS: '',
        PORT: port,
        DATABASE_URL: databaseUrl,
        LOG_LEVEL: 'fatal',
        ...env,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    running.add(child);
    child.once('exit', () => running.delete(child));
    const server = new TestServer(`http://127.0.0.1:${port}`, child, databaseUrl);
    await new Promise<void>((resolve, reject) => {
      let said = '';
      child.stdout.on('data', (chunk: Buffer) => {
        said += String(chunk);
        server.said = said;
        if (said.includes('oquel-ready')) resolve();
      });
      child.stderr.on('data', (chunk: Buffer) => (said += String(chunk)));
      child.on('exit', () => reject(new Error(`the server ended: ${said}`)));
    });
    return server;
  }
  /** Waits until it has printed something, and returns the part in brackets. */
  async printed(pattern: RegExp): Promise<string> {
    for (let i = 0; i < 200; i++) {
      const found = pattern.exec(this.said);
      if (found) return found[1];
      await new Promise((resolve) => setTimeout(resolve, 25));
    }
    throw new Error(`the server did not print ${String(pattern)}: ${this.said}`);
  }

  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    if (this.process.exitCode !== null || this.process.signalCode !== null) return;
    const ended = new Promise((resolve) => this.process.once('exit', resolve));
    this.process.kill(signal);
    await ended;
  }

  async call(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer> {
    const response = await fetch(this.url + path, {
      method,
      headers: { ...(body === undefined ? {} : { 'Content-Type': 'application/json' }), ...headers },
      body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
    });
    const text = await response.text();
    let parsed: unknown = null;
    try {
      parsed = JSON.parse(text);
    } catch {
      // Not every answer is JSON.
    }
    const type = (response.headers.get('content-type') ?? '').split(';')[0];
    if (type === 'application/problem+json') isDocumented(parsed as { type: string; status: number });
    return { status: response.status, type, body: parsed, text, headers: response.headers };
  }
  get(path: string): Promise<Answer> {
    return this.call('GET', path);
  }
  post(path: string, body: unknown): Promise<Answer> {
    return this.call('POST', path, body);
  }
  /** Imports a document and returns the new project's id. */
  async import(document: unknown): Promise<string> {
    const answer = await this.post('/api/projects', document);
    if (answer.status !== 201) throw new Error(answer.text);
    return (answer.body as { id: string }).id;
  }
}
