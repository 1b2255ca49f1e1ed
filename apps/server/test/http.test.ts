import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { newDatabase, TestServer } from './harness.js';

const LONG = `export const bells = '${'ding '.repeat(1000)}';`;

let server: TestServer;
beforeAll(async () => {
  const web = mkdtempSync(join(tmpdir(), 'oquel-web-'));
  mkdirSync(join(web, 'assets'));
  writeFileSync(join(web, 'index.html'), '<title>Oquel</title>');
  writeFileSync(join(web, 'assets/app-1.js'), 'export {};');
  writeFileSync(join(web, 'assets/app-2.js'), LONG);
  writeFileSync(join(web, 'assets/app-2.js.gz'), gzipSync(LONG));
  writeFileSync(join(web, 'assets/app-2.js.br'), brotliCompressSync(LONG));
  server = await TestServer.start(await newDatabase(), {
    OQUEL_WEB: web,
    OQUEL_HOSTS: ' station.example , other.example',
  });
});
afterAll(() => server.stop());

/** With a Host of its own, which `fetch` does not allow. */
function withHost(host: string): Promise<number> {
  return new Promise((resolve, reject) => {
    const { port } = new URL(server.url);
    const call = request(
      { host: '127.0.0.1', port, path: '/api/health', headers: { Host: host } },
      (answer) => {
        answer.resume();
        resolve(answer.statusCode!);
      },
    );
    call.on('error', reject);
    call.end();
  });
}

describe('the web application', () => {
  it('gets its page at every address of its own, and no other file by mistake', async () => {
    for (const path of ['/', '/p/some-id/wire', '/p/some-id/audit?rule=x']) {
      const { status, type, text, headers } = await server.get(path);
      expect({ status, type, text }).toEqual({
        status: 200,
        type: 'text/html',
        text: '<title>Oquel</title>',
      });
      expect(headers.get('cache-control')).toBe('no-cache');
    }
    const asset = await server.get('/assets/app-1.js');
    expect(asset.headers.get('cache-control')).toContain('immutable');
    const gone = await server.get('/assets/gone.js');
    expect(gone).toMatchObject({ status: 404, type: 'application/problem+json' });
    expect(gone.body.detail).toBe('there is no file /assets/gone.js');
    expect(await server.get('/api/gone')).toMatchObject({ status: 404, type: 'application/problem+json' });
    expect((await server.get('/assets/..%2f..%2fpackage.json')).status).toBeGreaterThanOrEqual(400);
  });
  it.each(['br', 'gzip'])('sends the copy that the build has compressed: %s', async (encoding) => {
    const address = `${server.url}/assets/app-2.js`;
    const packed = await fetch(address, { headers: { 'Accept-Encoding': encoding } });
    expect(Object.fromEntries(packed.headers)).toMatchObject({
      'content-encoding': encoding,
      'content-type': expect.stringContaining('text/javascript') as unknown,
      'cache-control': expect.stringContaining('immutable') as unknown,
    });
    expect(Number(packed.headers.get('content-length'))).toBeLessThan(LONG.length / 10);
    expect(await packed.text()).toBe(LONG);
  });
  it('answers HEAD as GET, without the page', async () => {
    for (const path of ['/', '/p/some-id/wire', '/apiary']) {
      expect(await server.call('HEAD', path)).toMatchObject({ status: 200, type: 'text/html', text: '' });
    }
  });
  it('comes with headers that keep other pages out', async () => {
    const { headers } = await server.get('/');
    expect(headers.get('content-security-policy')).toMatch(/default-src 'self'/);
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('x-frame-options')).toBe('SAMEORIGIN');
    expect(headers.get('x-powered-by')).toBeNull();
  });
});

describe('who may ask', () => {
  const hosts: [string, number][] = [
    ['127.0.0.1', 200],
    ['localhost:1234', 200],
    ['[::1]:80', 200],
    ['LOCALHOST', 200],
    ['localhost.', 200],
    ['Station.Example:80', 200],
    ['veyra.example', 421],
    ['127.0.0.1.veyra.example', 421],
  ];
  it.each(hosts)('the host "%s" gets %d', async (host, status) => expect(await withHost(host)).toBe(status));

  it('the page of the server itself may write, that of another may not', async () => {
    const body = { format: 'oquel.project/1', name: 'Hut', assets: [] };
    const own = await server.call('POST', '/api/projects', body, { Origin: server.url });
    expect(own.status).toBe(201);
    for (const Origin of ['http://veyra.example', 'null', server.url.replace('http', 'ftp')]) {
      const other = await server.call('POST', '/api/projects', body, { Origin });
      expect(other).toMatchObject({ status: 403, type: 'application/problem+json' });
    }
    expect((await server.get('/api/projects')).body).toHaveLength(1);
  });
});

describe('settings that are wrong', () => {
  const cases: [string, Record<string, string>, RegExp][] = [
    ['a port that is none', { PORT: 'eighty' }, /PORT must be a number/],
    ['no database', { DATABASE_URL: '' }, /DATABASE_URL must name/],
  ];
  it.each(cases)('%s: the server says so and ends', async (_name, env, message) => {
    await expect(TestServer.start('postgres://nobody@127.0.0.1:1/x', env)).rejects.toThrow(message);
  });
  it('a database that is not there: the server says so and ends', async () => {
    await expect(TestServer.start('postgres://nobody@127.0.0.1:1/x')).rejects.toThrow(/could not start/);
  });
});

it.each(['/', '/api/projects', '/api/openapi.json', '/api/nothing', '/api/projects/none'])(
  'the answer at %s says what it is and how its text is written',
  async (path) => {
    const { headers } = await server.get(path);
    expect(headers.get('content-type')).toMatch(
      /^(text\/html|application\/(problem\+)?json); charset=utf-8$/i,
    );
    expect(headers.get('x-content-type-options')).toBe('nosniff');
  },
);
