import { randomUUID } from 'node:crypto';
import { expect, it } from '@jest/globals';
import { freePort, newDatabase, TestServer } from './harness.js';
import { smallProject } from './small-project.js';

it('a server that is stopped ends its streams, lets what runs come to its end, and exits well', async () => {
  const server = await TestServer.start(await newDatabase());
  const id = await server.import(smallProject());
  const query = new URLSearchParams({ stream: randomUUID(), projects: id });
  const stream = await fetch(`${server.url}/api/live?${query.toString()}`);
  const reader = stream.body!.getReader();
  await reader.read();
  // A body that comes slowly: the request runs while the server is asked to stop.
  let send!: (text: string) => void;
  let done!: () => void;
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      send = (text) => controller.enqueue(new TextEncoder().encode(text));
      done = () => controller.close();
    },
  });
  const running = fetch(`${server.url}/api/projects/${id}/edits`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body,
    duplex: 'half',
  });
  const change = { op: 'set', part: 'note', value: 'stored at the end' };
  const text = JSON.stringify({ base: 1, label: 'a note', who: 'Pat', key: randomUUID(), changes: [change] });
  send(text.slice(0, 20));
  await new Promise((resolve) => setTimeout(resolve, 200));
  const ended = new Promise<[number | null, string | null]>((resolve) =>
    server.process.once('exit', (code, signal) => resolve([code, signal])),
  );
  server.process.kill('SIGTERM');
  while (!(await reader.read()).done);
  const refused = await server.get('/api/projects').catch(() => null);
  if (refused) expect(refused.body).toMatchObject({ status: 503, type: 'urn:oquel:problem:stopping' });
  expect((await fetch(`${server.url}/api/health/live`)).status).toBe(200);
  expect((await fetch(`${server.url}/api/health/ready`)).status).toBe(503);
  send(text.slice(20));
  done();
  expect((await running).status).toBe(201);
  expect(await ended).toEqual([0, null]);
});

it('figures for Prometheus are on a port of their own, without ids or names', async () => {
  const port = await freePort();
  const server = await TestServer.start(await newDatabase(), { OQUEL_METRICS_PORT: String(port) });
  const id = await server.import(smallProject());
  const changes = [{ op: 'set', part: 'note', value: 'x' }];
  await server.post(`/api/projects/${id}/edits`, {
    base: 1,
    label: 'x',
    who: 'Pat',
    key: randomUUID(),
    changes,
  });
  const text = await (await fetch(`http://127.0.0.1:${port}/metrics`)).text();
  expect(text).toMatch(
    /oquel_request_seconds_count\{method="POST",route="\/api\/projects\/:id\/edits",status="201"\} 1/,
  );
  expect(text).toContain('oquel_edits_total 1');
  for (const name of [
    'oquel_pool_connections',
    'oquel_streams 0',
    'oquel_heavy_tasks 0',
    'nodejs_eventloop_lag_seconds',
  ]) {
    expect(text).toContain(name);
  }
  expect(text).not.toContain(id);
  expect(text).not.toContain('Pat');
  // Not on the server's own.
  expect((await server.get('/metrics')).status).toBe(404);
  await server.stop();
});
