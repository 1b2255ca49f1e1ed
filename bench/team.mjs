import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { withServer } from '../scripts/lib/app.mjs';
import { ROOT } from '../scripts/lib/root.mjs';
import { sleep } from '../scripts/lib/run.mjs';
import { say } from '../scripts/lib/say.mjs';

const PROJECTS = 20;
const WINDOWS = 200;
/** Edits in a second, in all, and for how many seconds. */
const RATE = 5;
const SECONDS = 30;

/**
 * A team at work: windows on projects, each with its stream of events, and edits in all of them. Tells how soon an edit is answered, and
 * how soon every other window of its project has it: it hears of the version and fetches what is new, as a window does.
 */
export default function team() {
  return withServer(async ({ base }) => {
    const document = readFileSync(join(ROOT, 'demo/storm-over-veyra.json'), 'utf8');
    const projects = [];
    for (let i = 0; i < PROJECTS; i++)
      projects.push((await (await post(base, '/api/projects', document)).json()).id);
    const windows = Array.from({ length: WINDOWS }, (_, i) => new Window(base, projects[i % PROJECTS]));
    for (const window of windows) await window.open();
    await sleep(2000);
    const answers = [];
    const sent = [];
    const running = [];
    for (let i = 0; i < RATE * SECONDS; i++) {
      running.push(edit(base, windows[(i * 37) % WINDOWS], i, answers, sent));
      await sleep(1000 / RATE);
    }
    await Promise.all(running);
    await sleep(2000);
    const seen = sent.flatMap(({ project, version, at, by }) =>
      windows
        .filter((w) => w.project === project && w !== by)
        .map((w) => (w.has.get(version) ?? Infinity) - at),
    );
    for (const window of windows) window.close();
    say(`${WINDOWS} windows on ${PROJECTS} projects, ${RATE} edits a second for ${SECONDS} s`);
    say(`an edit is answered: ${figures(answers)}`);
    say(`another window has it: ${figures(seen)} (${seen.length} times)`);
    return 0;
  });
}

async function edit(base, by, i, answers, sent) {
  const { project } = by;
  const id = `team-${i}`;
  const item = { id, asset: 'Winch', at: [i % 40, 3] };
  const changes = [{ op: 'insert', list: 'placements', asset: 'pylon-ridge', index: 0, item }];
  const body = {
    base: by.version,
    label: `placed ${id}`,
    who: `w${i}`,
    key: randomUUID(),
    changes,
    have: by.version,
  };
  const at = performance.now();
  const answer = await post(base, `/api/projects/${project}/edits`, JSON.stringify(body));
  if (answer.status !== 201) throw new Error(await answer.text());
  const { version } = await answer.json();
  answers.push(performance.now() - at);
  sent.push({ project, version, at, by });
}

/** A window as the interface has it: it hears of versions, and fetches what it does not have. */
class Window {
  version = 1;
  /** When it had each version. */
  has = new Map();
  stop = new AbortController();
  constructor(base, project) {
    Object.assign(this, { base, project, client: randomUUID(), stream: randomUUID() });
  }
  async open() {
    const query = new URLSearchParams({ stream: this.stream, projects: this.project });
    const answer = await fetch(`${this.base}/api/live?${query}`, { signal: this.stop.signal });
    void this.read(answer).catch(() => undefined);
    const windows = [{ project: this.project, client: this.client, who: 'bench', place: 'wire' }];
    await post(this.base, `/api/live/${this.stream}`, JSON.stringify({ windows }));
  }
  close() {
    this.stop.abort();
  }
  async read(answer) {
    for await (const chunk of answer.body.pipeThrough(new TextDecoderStream())) {
      for (const [, version] of chunk.matchAll(/"version":(\d+)/g)) {
        if (Number(version) > this.version) void this.fetch().catch(() => undefined);
      }
    }
  }
  async fetch() {
    const answer = await fetch(`${this.base}/api/projects/${this.project}/edits?after=${this.version}`);
    const { edits, version } = await answer.json();
    const now = performance.now();
    for (const e of edits) if (!this.has.has(e.version)) this.has.set(e.version, now);
    this.version = Math.max(this.version, version);
  }
}

function post(base, path, body) {
  return fetch(base + path, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body });
}
function figures(times) {
  const sorted = [...times].sort((a, b) => a - b);
  const at = (q) => sorted[Math.ceil(q * sorted.length) - 1].toFixed(0);
  return `median ${at(0.5)} ms, 95th percentile ${at(0.95)} ms, longest ${at(1)} ms`;
}
