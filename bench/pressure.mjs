import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import { withServer } from '../scripts/lib/app.mjs';
import { sleep } from '../scripts/lib/run.mjs';
import { say } from '../scripts/lib/say.mjs';

/**
 * What a server has to stand: an edit of very many changes and its undo, very many audits at once, a very large import, very
 * many windows. Beside each: the longest that `/api/health` took meanwhile. Arguments: names of parts (edit, audits, import,
 * streams); all of them without.
 */
export default function pressure(names) {
  const parts = { edit, audits, import: importing, streams };
  const wanted = names.length > 0 ? names : Object.keys(parts);
  return withServer(async (app) => {
    for (const name of wanted) await parts[name](app);
    return 0;
  });
}

/** Runs something while the server's health is asked again and again; tells the longest answer. */
async function beside(base, what, work) {
  // From a thread of its own: what this one has to do for the work would count as the server's.
  const asking = new Worker(new URL('./lib/ask-health.mjs', import.meta.url), { workerData: base });
  const asked = once(asking, 'message');
  const begun = performance.now();
  const text = await work();
  const took = performance.now() - begun;
  asking.postMessage('over');
  const [{ worst, times }] = await asked;
  say(
    `${what}: ${(took / 1000).toFixed(2)} s; ${text}; health answered within ${worst.toFixed(0)} ms (${times} times)`,
  );
}
const post = (base, path, body) =>
  fetch(base + path, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  });
const binding = (id) => ({ id, from: { at: '.', event: 'onA' }, to: { at: '.', action: 'a' } });
function yard(count) {
  return {
    format: 'oquel.project/1',
    name: 'Yard',
    assets: Array.from({ length: Math.ceil(count / 5000) }, (_, s) => ({
      id: `yard${s}`,
      kind: 'scene',
      events: [{ name: 'onA', cause: { type: 'use' } }],
      actions: [{ name: 'a' }],
      bindings: Array.from({ length: Math.min(5000, count) }, (__, i) => binding(`b${i}`)),
    })),
  };
}

/** As many changes as one request holds, of any mix; and all of them undone. */
async function edit({ base }) {
  const { id } = await (await post(base, '/api/projects', yard(50_000))).json();
  const changes = Array.from({ length: 100_000 }, (_, i) => {
    const head = { list: 'bindings', asset: `yard${i % 10}` };
    const one = `b${Math.floor(i / 10) % 5000}`;
    if (i < 40_000) return { op: 'insert', ...head, index: (i * 7) % 5000, item: binding(`n${i}`) };
    if (i < 60_000) return { op: 'move', ...head, id: one, index: (i * 11) % 5000 };
    if (i < 80_000) return { op: 'replace', ...head, id: one, item: { ...binding(one), delay: i } };
    return { op: 'remove', ...head, id: `n${i - 80_000}` };
  });
  const body = JSON.stringify({ base: 1, label: 'much', who: 'bench', key: randomUUID(), changes });
  await beside(
    base,
    `an edit of ${changes.length} changes (${(body.length / 1e6).toFixed(1)} MB)`,
    async () => {
      const answer = await post(base, `/api/projects/${id}/edits`, body);
      await answer.arrayBuffer();
      return `answered ${answer.status}`;
    },
  );
  await beside(base, 'its undo', async () => {
    const answer = await post(base, `/api/projects/${id}/undo`, { base: 2, version: 2, who: 'bench' });
    await answer.arrayBuffer();
    return `answered ${answer.status}`;
  });
}

async function audits({ base }) {
  const { id } = await (await post(base, '/api/projects', yard(100_000))).json();
  await beside(base, '300 audits at once of a project of 100 000 bindings', async () => {
    const statuses = {};
    await Promise.all(
      Array.from({ length: 300 }, async () => {
        const answer = await fetch(`${base}/api/projects/${id}/audit?today=2026-11-28`);
        await answer.arrayBuffer();
        statuses[answer.status] = (statuses[answer.status] ?? 0) + 1;
      }),
    );
    return `answers ${JSON.stringify(statuses)}`;
  });
}

async function importing({ base, pid }) {
  const item = (i) => `${JSON.stringify({ ...binding(`b${i}`), note: 'x'.repeat(150) })}`;
  const rows = Array.from({ length: 950_000 }, (_, i) => item(i)).join(',');
  const text = `{"format":"oquel.project/1","name":"Large","assets":[{"id":"yard","kind":"scene","bindings":[${rows}]}]}`;
  await beside(base, `an import of ${(text.length / 1e6).toFixed(0)} MB`, async () => {
    const answer = await post(base, '/api/projects', text);
    const said = await answer.text();
    const peak = Number(/^VmHWM:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1e6;
    return `answered ${answer.status}${answer.ok ? '' : ` ${said.slice(0, 200)}`}, at most ${peak.toFixed(2)} GB of memory`;
  });
}

/** So many windows of a project that come at once: until each has heard of all. */
async function streams({ base }, count = 1000) {
  const { id } = await (await post(base, '/api/projects', yard(1))).json();
  const open = [];
  const begun = performance.now();
  let opened = 0;
  await Promise.all(
    Array.from({ length: count }, async (_, i) => {
      // Some at a time, as one machine opens connections.
      await sleep(i * 2);
      const window = new Listener(base, id, `w${i}`);
      open.push(window);
      await window.open();
      opened = performance.now();
    }),
  );
  const bytes = () => open.reduce((sum, w) => sum + w.bytes, 0);
  while (open.some((w) => w.present.size < count)) {
    if (performance.now() - opened > 60_000) throw new Error('it does not settle');
    await sleep(20);
  }
  const settled = performance.now();
  say(
    `${count} windows that come in ${((opened - begun) / 1000).toFixed(1)} s: each has heard of all ` +
      `${((settled - opened) / 1000).toFixed(2)} s after the last; ${(bytes() / 1e6).toFixed(0)} MB sent`,
  );
  const change = { op: 'insert', list: 'bindings', asset: 'yard0', index: 0, item: binding('seen') };
  const sent = performance.now();
  await post(base, `/api/projects/${id}/edits`, { base: 1, label: 'x', who: 'bench', changes: [change] });
  while (open.some((w) => w.version < 2)) await sleep(5);
  say(`an edit is heard of by all of them after ${((performance.now() - sent) / 1000).toFixed(2)} s`);
  for (const window of open) window.close();
}
class Listener {
  present = new Set();
  version = 0;
  bytes = 0;
  stop = new AbortController();
  constructor(base, project, who) {
    Object.assign(this, { base, project, who, client: randomUUID(), stream: randomUUID() });
  }
  async open() {
    const query = new URLSearchParams({ stream: this.stream, projects: this.project });
    const answer = await fetch(`${this.base}/api/live?${query}`, { signal: this.stop.signal });
    if (!answer.ok) throw new Error(await answer.text());
    void this.read(answer).catch(() => undefined);
    const windows = [{ project: this.project, client: this.client, who: this.who, place: 'wire' }];
    const said = await post(this.base, `/api/live/${this.stream}`, { windows });
    if (said.status !== 204) throw new Error(await said.text());
  }
  close() {
    this.stop.abort();
  }
  async read(answer) {
    let text = '';
    for await (const chunk of answer.body.pipeThrough(new TextDecoderStream())) {
      this.bytes += chunk.length;
      text += chunk;
      const parts = text.split('\n\n');
      text = parts.pop();
      for (const part of parts) {
        const type = /^event: (.*)$/m.exec(part)?.[1];
        const data = /^data: (.*)$/m.exec(part)?.[1];
        if (data === undefined) continue;
        const value = JSON.parse(data);
        if (type === 'version') this.version = value.version;
        if (type !== 'presence') continue;
        if (value.all) this.present.clear();
        for (const w of value.all ?? value.came ?? []) this.present.add(w.client);
        for (const client of value.left ?? []) this.present.delete(client);
      }
    }
  }
}
