import { readFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { request } from 'node:http';
import { brotliCompressSync, deflateSync, gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { DEMO, newDatabase, TestServer } from './harness.js';
import { smallProject } from './small-project.js';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start(await newDatabase(), { OQUEL_DEMO: DEMO });
});
afterAll(() => server.stop());

describe('projects', () => {
  it('loads the demo where there is no project, once', async () => {
    const again = await TestServer.start(server.databaseUrl, { OQUEL_DEMO: DEMO });
    const { body } = await again.get('/api/projects');
    await again.stop();
    expect(body.map((p: { name: string }) => p.name)).toEqual(['Storm over Veyra']);
  });

  it('exports exactly what was put in, order of properties and unknown ones included', async () => {
    const text = JSON.stringify({
      name: 'Odd "names" \\ and \u0000 and \u{1f32a}',
      extra: { kept: [1, 2.5, null, 'tab\there', '\ud800'] },
      format: 'oquel.project/1',
      assets: [
        { kind: 'prefab', bindings: [], id: 'Empty', note: 'line\nbreak' },
        { id: 'Bare', kind: 'prefab' },
        { id: 'none', kind: 'scene', placements: [{ id: 'b', asset: 'Bare', mystery: true }], events: [] },
      ],
    });
    const { status, body } = await server.post('/api/projects', text);
    expect(status).toBe(201);
    expect(body.unknown.sort()).toEqual(['/assets/2/placements/0/mystery', '/extra']);
    expect((await server.get(`/api/projects/${body.id}/document`)).text).toBe(text);
  });

  it('opens the demo as it is in its file, and audits it', async () => {
    const [demo] = (await server.get('/api/projects')).body.filter((p: { name: string }) =>
      /Veyra/.test(p.name),
    );
    const opened = await server.get(`/api/projects/${demo.id}`);
    expect(opened.body).toMatchObject({ version: 1, undo: [], redo: [] });
    expect(opened.body.document).toEqual(JSON.parse(readFileSync(DEMO, 'utf8')));
    const { status, body, headers } = await server.get(`/api/projects/${demo.id}/audit?today=2026-11-24`);
    expect(status).toBe(200);
    expect(headers.get('oquel-version')).toBe('1');
    expect(body).toMatchObject({ format: 'oquel.audit/1', gate: 'stop' });
  });

  const broken: [string, string, object][] = [
    ['no JSON', '{"format": oquel}', { pointer: '', found: expect.stringContaining('line 1, column 12') }],
    ['a wrong value', JSON.stringify({ ...smallProject(), name: 3 }), { pointer: '/name', found: '3' }],
    [
      'an id twice',
      JSON.stringify({
        ...smallProject(),
        assets: [...smallProject().assets, { id: 'WindMast', kind: 'prefab' }],
      }),
      { pointer: '/assets/3/id', found: '"WindMast", already at index 1' },
    ],
    ['nothing at all', '', { pointer: '' }],
  ];
  it.each(broken)('refuses %s, says where, and stores nothing', async (_name, text, problem) => {
    const before = (await server.get('/api/projects')).body.length;
    const answer = await server.post('/api/projects', text);
    expect(answer).toMatchObject({ status: 422, type: 'application/problem+json' });
    expect(answer.body.type).toBe('urn:oquel:problem:broken-document');
    expect(answer.body.problems[0]).toMatchObject(problem);
    expect((await server.get('/api/projects')).body).toHaveLength(before);
  });

  it('refuses to audit a project that expands beyond all bounds, with the number and the place', async () => {
    const levels = Array.from({ length: 10 }, (_, i) => ({
      id: `L${i}`,
      kind: i === 0 ? 'scene' : 'prefab',
      placements: i === 9 ? [] : Array.from({ length: 10 }, (__, k) => ({ id: `p${k}`, asset: `L${i + 1}` })),
    }));
    const id = await server.import({ format: 'oquel.project/1', name: 'Deep', assets: levels });
    const answer = await server.get(`/api/projects/${id}/audit`);
    expect(answer).toMatchObject({ status: 422, type: 'application/problem+json' });
    expect(answer.body.detail).toMatch(/1,111,111,111 instances.*L0 \(10 × L1\)/);
  });
});

describe('answers to wrong requests', () => {
  const cases: [string, string, string, unknown, Record<string, string>, number, string][] = [
    ['an unknown address', 'GET', '/api/nothing', undefined, {}, 404, 'not-found'],
    ['an id that is none', 'GET', '/api/projects/abc', undefined, {}, 404, 'no-project'],
    [
      'an unknown project',
      'GET',
      '/api/projects/00000000-0000-4000-8000-000000000000',
      undefined,
      {},
      404,
      'no-project',
    ],
    [
      'another origin',
      'GET',
      '/api/health',
      undefined,
      { Origin: 'http://example.com' },
      403,
      'wrong-origin',
    ],
    ['a bad date', 'GET', '/api/projects/ID/audit?today=soon', undefined, {}, 400, 'bad-request'],
    ['no such day', 'GET', '/api/projects/ID/audit?today=2026-02-30', undefined, {}, 400, 'bad-request'],
    [
      'two dates',
      'GET',
      '/api/projects/ID/audit?today=2026-02-03&today=x',
      undefined,
      {},
      400,
      'bad-request',
    ],
    [
      'a version beyond all',
      'GET',
      '/api/projects/ID/edits?after=3000000000',
      undefined,
      {},
      400,
      'bad-request',
    ],
    ['a base beyond all', 'POST', '/api/projects/ID/undo', { base: 1e300, who: 'x' }, {}, 400, 'bad-request'],
    [
      'a version to undo beyond all',
      'POST',
      '/api/projects/ID/take-back',
      { base: 1, version: 2 ** 31, who: 'x' },
      {},
      400,
      'bad-request',
    ],
    ['values nested deep', 'POST', '/api/projects/ID/edits', '['.repeat(3000), {}, 400, 'bad-json'],
    ['a document nested deep', 'POST', '/api/projects', '{"a":'.repeat(5000), {}, 422, 'broken-document'],
    [
      'a build with a blank name',
      'POST',
      '/api/projects/ID/builds',
      { base: 1, name: ' ', who: 'x' },
      {},
      400,
      'bad-request',
    ],
    ['a bad version', 'GET', '/api/projects/ID/edits?after=x', undefined, {}, 400, 'bad-request'],
    ['bad JSON', 'POST', '/api/projects/ID/edits', '{"base":', {}, 400, 'bad-json'],
    ['a wrong shape', 'POST', '/api/projects/ID/edits', { base: 0, surplus: 1 }, {}, 400, 'bad-request'],
  ];
  it.each(cases)('%s', async (_name, method, path, body, headers, status, type) => {
    const [{ id }] = (await server.get('/api/projects')).body;
    const answer = await server.call(method, path.replace('ID', id as string), body, headers);
    expect(answer).toMatchObject({ status, type: 'application/problem+json' });
    expect(answer.body.type).toBe(`urn:oquel:problem:${type}`);
    expect(answer.body.detail).not.toBe('');
  });

  it('a body that is too large', async () => {
    const [{ id }] = (await server.get('/api/projects')).body;
    const answer = await server.post(`/api/projects/${id}/edits`, { label: 'x'.repeat(17 * 1024 * 1024) });
    expect(answer).toMatchObject({ status: 413, type: 'application/problem+json' });
    expect(answer.body).toMatchObject({ type: 'urn:oquel:problem:too-large', limit: 16 * 1024 * 1024 });
  });

  it('text that is not UTF-8, and nothing is stored', async () => {
    const before = (await server.get('/api/projects')).text;
    const document = Buffer.from('{"format":"oquel.project/1","name":"a\xff","assets":[]}', 'latin1');
    const answer = await fetch(`${server.url}/api/projects`, { method: 'POST', body: document });
    expect(answer.status).toBe(400);
    expect(await answer.json()).toMatchObject({ type: 'urn:oquel:problem:bad-text' });
    expect((await server.get('/api/projects')).text).toBe(before);
  });
  it('a compressed body counts by what it unpacks to; the server answers meanwhile', async () => {
    const [{ id }] = (await server.get('/api/projects')).body;
    const bomb = gzipSync(Buffer.alloc(17 * 1024 * 1024, ' '));
    const answers = await Promise.all([
      ...Array.from({ length: 6 }, () =>
        fetch(`${server.url}/api/projects/${id}/edits`, {
          method: 'POST',
          body: bomb,
          headers: { 'Content-Encoding': 'gzip' },
        }),
      ),
      fetch(`${server.url}/api/health`),
    ]);
    expect(answers.map((a) => a.status)).toEqual([413, 413, 413, 413, 413, 413, 200]);
  });
  const text = JSON.stringify({ format: 'oquel.project/1', name: 'Packed', assets: [] });
  const wholeGzip = gzipSync(text);
  const packings: [string, string, Buffer, number, string | null][] = [
    ['gzip', 'gzip', wholeGzip, 201, null],
    ['deflate', 'deflate', deflateSync(text), 201, null],
    ['brotli', 'br', brotliCompressSync(text), 201, null],
    ['gzip that is cut off', 'gzip', wholeGzip.subarray(0, 30), 400, 'bad-request'],
    ['text that says it is gzip', 'gzip', Buffer.from(text), 400, 'bad-request'],
    ['an unknown packing', 'constructor', Buffer.from(text), 415, 'bad-request'],
    [
      'gzip of more than a document may have',
      'gzip',
      gzipSync(Buffer.alloc(257 * 1024 * 1024, ' ')),
      413,
      'too-large',
    ],
  ];
  it.each(packings)('a document packed as %s', async (_name, packing, body, status, type) => {
    const answer = await fetch(`${server.url}/api/projects`, {
      method: 'POST',
      body,
      headers: { 'Content-Encoding': packing },
    });
    expect(answer.status).toBe(status);
    const said = (await answer.json()) as { id: string; type?: string };
    if (type !== null) expect(said.type).toBe(`urn:oquel:problem:${type}`);
    else expect((await server.get(`/api/projects/${said.id}/document`)).text).toBe(text);
  });
  it('a document of more than it may have, said before it is sent', async () => {
    const answer = await new Promise<number | undefined>((resolve, reject) => {
      const headers = { 'Content-Length': 257 * 1024 * 1024 };
      const sending = request(`${server.url}/api/projects`, { method: 'POST', headers }, (response) => {
        resolve(response.statusCode);
        sending.destroy();
      });
      sending.on('error', reject);
      sending.write('{');
    });
    expect(answer).toBe(413);
  });
  it('tells properties that stand twice in an import, and does it once with one key', async () => {
    const key = randomUUID();
    const text = '{"format":"oquel.project/1","name":"One","name":"Two","assets":[]}';
    const [first, again] = [
      await server.post(`/api/projects?key=${key}`, text),
      await server.post(`/api/projects?key=${key}`, text),
    ];
    expect(first.body.repeated).toEqual(['/name']);
    expect(again.body.id).toBe(first.body.id);
    const { body } = await server.get('/api/projects');
    expect(body.filter((p: { name: string }) => p.name === 'Two')).toHaveLength(1);
  });
  it('answers are packed, kept nowhere, and carry the id of their request', async () => {
    const [{ id }] = (await server.get('/api/projects')).body;
    const answer = await fetch(`${server.url}/api/projects/${id}`, {
      headers: { 'Accept-Encoding': 'gzip' },
    });
    expect(answer.headers.get('cache-control')).toBe('no-store');
    const large = await fetch(`${server.url}/api/openapi.json`, { headers: { 'Accept-Encoding': 'gzip' } });
    expect(large.headers.get('content-encoding')).toBe('gzip');
    const missing = await server.get('/api/gone');
    expect(missing.body.request).toMatch(/^[0-9a-f-]{36}$/);
    expect(missing.headers.get('x-request-id')).toBe(missing.body.request);
  });

  it('describes its API', async () => {
    const { body } = await server.get('/api/openapi.json');
    expect(Object.keys(body.paths)).toEqual(
      expect.arrayContaining(['/api/projects', '/api/projects/{id}/edits']),
    );
  });
});
