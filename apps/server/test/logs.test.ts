import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { request } from 'node:http';
import { newDatabase, TestServer } from './harness.js';

let server: TestServer;
let logged = '';
beforeAll(async () => {
  server = await TestServer.start(await newDatabase(), { LOG_LEVEL: 'info' });
  server.process.stdout!.on('data', (chunk: Buffer) => (logged += String(chunk)));
}, 60_000);
afterAll(() => server.stop());

/** What is logged until a line about a request comes. */
async function lineOf(id: string): Promise<string> {
  const end = Date.now() + 20_000;
  for (;;) {
    const line = logged.split('\n').find((l) => l.includes(id));
    if (line !== undefined) return line;
    if (Date.now() > end) throw new Error(`nothing was logged of ${id}: ${logged}`);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}
/** Sends headers that `fetch` does not let one set; resolves to the id of the request. */
function send(path: string, headers: Record<string, string>): Promise<string> {
  return new Promise((resolve, reject) => {
    request(server.url + path, { headers }, (response) => {
      response.resume();
      response.once('end', () => resolve(String(response.headers['x-request-id'])));
    })
      .once('error', reject)
      .end();
  });
}

describe('the log', () => {
  const refused: [string, string, Record<string, string>][] = [
    ['a foreign host', '/api/projects', { Host: 'elsewhere.example' }],
    ['a foreign origin', '/api/projects', { Origin: 'https://elsewhere.example' }],
    ['an address that is none', '/api/nowhere', {}],
  ];
  it.each(refused)('tells of %s, by the id that its answer carries', async (_name, path, headers) => {
    expect(await lineOf(await send(path, headers))).toMatch(path);
  });
  it('holds no secret that a request carries', async () => {
    const secret = 'a-word-that-nobody-may-read';
    const id = await send('/api/health', {
      Authorization: `Bearer ${secret}`,
      Cookie: `session=${secret}`,
      'Proxy-Authorization': `Basic ${secret}`,
    });
    expect(await lineOf(id)).toContain('/api/health');
    expect(logged).not.toContain(secret);
  });
});
