import { createWriteStream, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from '../scripts/lib/build.mjs';
import { ROOT } from '../scripts/lib/root.mjs';
import { say } from '../scripts/lib/say.mjs';

/** Judging many records of many sessions on the command line: records a second, and the most memory that it took. */
export default async function observeBench(args) {
  const records = Number(args[0] ?? 10_000_000);
  await build();
  const folder = mkdtempSync(join(tmpdir(), 'oquel-bench-'));
  try {
    const project = join(folder, 'yard.json');
    writeFileSync(project, JSON.stringify(yard()));
    const trace = join(folder, 'plays.jsonl');
    await write(trace, records);
    say(`${records} records, ${(statSync(trace).size / 1e6).toFixed(0)} MB, 40 sessions side by side`);
    const begun = performance.now();
    const command = `
      import { main } from ${JSON.stringify(join(ROOT, 'apps/cli/dist/main.js'))};
      process.exitCode = await main(process.argv.slice(1));
      console.error(process.resourceUsage().maxRSS);`;
    const run = spawn(process.execPath, ['--input-type=module', '-e', command, 'observe', project, trace], {
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let [out, err] = ['', ''];
    run.stdout.on('data', (d) => (out += d));
    run.stderr.on('data', (d) => (err += d));
    const [code] = await once(run, 'close');
    if (code !== 0) throw new Error(err);
    const seconds = (performance.now() - begun) / 1000;
    say(out.split('\n').slice(0, 2).join(' '));
    const kilobytes = Number(err.trim().split('\n').at(-1));
    say(
      `${seconds.toFixed(1)} s: ${(records / seconds / 1000).toFixed(0)} thousand records a second, at most ${(kilobytes / 1024).toFixed(0)} MB of memory`,
    );
    return 0;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const MATS = 200;
function yard() {
  const placements = [];
  const bindings = [];
  for (let i = 0; i < MATS; i++) {
    placements.push({ id: `mat-${i}`, asset: 'Mat' }, { id: `lamp-${i}`, asset: 'Lamp' });
    for (const to of [i, (i + 1) % MATS, (i + 7) % MATS]) {
      bindings.push({
        id: `b-${bindings.length}`,
        from: { at: `mat-${i}`, event: 'onStepped' },
        to: { at: `lamp-${to}`, action: 'light' },
        ...(to === i ? {} : { delay: 0.2 }),
      });
    }
  }
  return {
    format: 'oquel.project/1',
    name: 'A yard',
    assets: [
      { id: 'yard', kind: 'scene', placements, bindings },
      { id: 'Mat', kind: 'prefab', events: [{ name: 'onStepped', cause: { type: 'code' } }] },
      { id: 'Lamp', kind: 'prefab', actions: [{ name: 'light' }] },
    ],
  };
}

/** Sessions in turn; one raise and its three deliveries each time, all as they should be. */
async function write(file, records) {
  const stream = createWriteStream(file);
  const sessions = Array.from({ length: 40 }, (_, i) => ({ name: `s${i}`, t: 0 }));
  for (let n = 0, turn = 0; n < records; n += 4, turn++) {
    const session = sessions[turn % sessions.length];
    const mat = (turn * 7) % MATS;
    const line = (record) => `${JSON.stringify({ ...record, session: session.name })}\n`;
    const lamp = (to, t) => line({ kind: 'performed', at: `yard:lamp-${to % MATS}`, action: 'light', t });
    session.t += 1_000_000;
    const { t } = session;
    const text =
      line({ kind: 'raise', at: `yard:mat-${mat}`, event: 'onStepped', t }) +
      lamp(mat, t) +
      lamp(mat + 1, t + 200_000) +
      lamp(mat + 7, t + 200_000);
    if (!stream.write(text)) await once(stream, 'drain');
  }
  stream.end();
  await once(stream, 'close');
}
