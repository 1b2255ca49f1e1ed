import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { createHash, randomUUID } from 'node:crypto';
import { newDatabase, TestServer } from './harness.js';
import { smallProject } from './small-project.js';

let server: TestServer;
let id: string;
beforeAll(async () => {
  server = await TestServer.start(await newDatabase());
  id = await server.import(smallProject());
});
afterAll(() => server.stop());

const PNG = Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex');
const svg = (n: number): Buffer => Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="${n}"/>`);
const put = async (
  project: string,
  bytes: Buffer,
): Promise<{ status: number; body: Record<string, string> }> => {
  const answer = await fetch(`${server.url}/api/projects/${project}/pictures`, {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream' },
    body: new Uint8Array(bytes),
  });
  return { status: answer.status, body: (await answer.json()) as Record<string, string> };
};
const get = (project: string, name: string): Promise<Response> =>
  fetch(`${server.url}/api/projects/${project}/pictures/${name}`);

describe('pictures of a project', () => {
  it('are stored once by what is in them, and given back byte for byte', async () => {
    const { status, body } = await put(id, PNG);
    expect(status).toBe(201);
    expect(body.name).toBe(`${createHash('sha256').update(PNG).digest('hex').slice(0, 32)}.png`);
    expect((await put(id, PNG)).body).toEqual(body);
    const back = await get(id, body.name);
    expect(back.headers.get('content-type')).toBe('image/png');
    expect(Buffer.from(await back.arrayBuffer()).equals(PNG)).toBe(true);
  });
  it('run no script when one is opened by itself', async () => {
    const { body } = await put(
      id,
      Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>1</script></svg>'),
    );
    const { headers } = await get(id, body.name);
    expect(headers.get('content-type')).toBe('image/svg+xml');
    expect(headers.get('content-security-policy')).toContain("default-src 'none'");
    expect(headers.get('content-security-policy')).toContain('sandbox');
    expect(headers.get('x-content-type-options')).toBe('nosniff');
  });
  it.each([
    ['what is no picture', Buffer.from('<html>'), 400, 'PNG, JPEG, WebP or SVG'],
    ['nothing', Buffer.from(''), 400, 'picture'],
    ['more than 8 MiB', Buffer.concat([PNG, Buffer.alloc(8 * 1024 * 1024)]), 413, ''],
  ])('are refused: %s', async (_, bytes, status, words) => {
    const answer = await put(id, bytes);
    expect(answer.status).toBe(status);
    expect(answer.body.detail).toContain(words);
  });
  it('belong to their project, and go with a copy of it', async () => {
    const { body } = await put(id, PNG);
    const other = await server.import(smallProject());
    expect((await get(other, body.name)).status).toBe(404);
    expect((await put(randomUUID(), PNG)).status).toBe(404);
    const copy = await server.post(`/api/projects/${id}/copy`, { name: 'Copy', key: randomUUID() });
    expect((await get(copy.body.id as string, body.name)).status).toBe(200);
  });
  it('are bounded in number: what no plan shows goes first, what one shows stays', async () => {
    const project = await server.import(smallProject());
    const { body: shown } = await put(project, svg(0));
    const backdrop = { picture: shown.name, at: [0, 0], size: [10, 10] };
    const { body: document } = await server.get(`/api/projects/${project}/document`);
    const scene = (document.assets as { id: string; kind: string }[]).find((a) => a.kind === 'scene')!;
    const edit = await server.post(`/api/projects/${project}/edits`, {
      base: 1,
      label: 'set a backdrop picture',
      who: 'Ada',
      key: randomUUID(),
      changes: [{ op: 'set', asset: scene.id, part: 'backdrop', value: backdrop }],
    });
    expect(edit.status).toBe(201);
    const names: string[] = [];
    for (let n = 1; n <= 100; n++) names.push((await put(project, svg(n))).body.name);
    expect((await get(project, shown.name)).status).toBe(200);
    expect((await get(project, names[0])).status).toBe(404);
    expect((await get(project, names[99])).status).toBe(200);
  });
});
