import { say } from '../scripts/lib/say.mjs';
import { withApp } from '../scripts/lib/app.mjs';
import { generate } from './lib/generator.mjs';

/** So many that the 95th percentile is not the longest of all. */
const ROUNDS = 40;

/**
 * Milliseconds from an input to the frame that shows its effect, with a large project; and frames in a second while a plan
 * of 5 000 things is panned. Goals: opening under 5 s, every answer within 100 ms at the 95th percentile, 50 frames.
 */
export default function interfaceBench(args) {
  const size = Number(args[0] ?? 100_000);
  return withApp(async ({ base, page }) => {
    const id = await importProject(base, generate(size));
    const project = await (await fetch(`${base}/api/projects/${id}/document`)).json();
    const scene = project.assets.find((a) => a.kind === 'scene');
    say(
      `${size} expanded bindings; ${scene.id} has ${scene.placements.length} things, ${scene.bindings.length} bindings`,
    );

    const begun = performance.now();
    await page.goto(`${base}/p/${id}/wire?scope=${scene.id}`);
    await page.locator('.thing, .cluster').first().waitFor();
    const drawn = performance.now() - begun;
    await audited(page);
    say(
      `opening: ${drawn.toFixed(0)} ms to the plan, ${(performance.now() - begun).toFixed(0)} ms to its audit`,
    );

    await closer(page);
    await install(page);
    report('choosing a sender in Wire', await page.evaluate(chooseSenders, ROUNDS));
    report('muting a sentence in Wire', await page.evaluate(muteSentences, ROUNDS));
    await page.goto(`${base}/p/${id}/wire/sheet`);
    await page.locator('[data-row]').first().waitFor({ timeout: 60_000 });
    await audited(page);
    await install(page);
    report('a key in the filter of the sheet', await page.evaluate(filterKeys, 'winch brake on cabin'));
    await page.goto(`${base}/p/${id}/plan?scope=${scene.id}`);
    await page.locator('.thing, .cluster').first().waitFor();
    await audited(page);
    await closer(page);
    await install(page);
    report('choosing a thing in Plan', await page.evaluate(chooseThings, ROUNDS));

    const wide = await importProject(base, fieldOf(5000));
    await page.goto(`${base}/p/${wide}/plan?scope=field`);
    await page.locator('.thing, .cluster').first().waitFor();
    await audited(page);
    const frames = await pan(page);
    say(`panning 5 000 things, all in sight: ${frames.toFixed(0)} frames a second`);
    return 0;
  });
}

/** Found by its class: to look for its text in all that is drawn would take a tenth of the time that is measured. */
function audited(page) {
  return page.locator('.strip .gate').waitFor({ timeout: 120_000 });
}
async function importProject(base, project) {
  const answer = await fetch(`${base}/api/projects`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(project),
  });
  if (!answer.ok) throw new Error(await answer.text());
  return (await answer.json()).id;
}

function fieldOf(count) {
  const placements = Array.from({ length: count }, (_, i) => ({
    id: `beacon-${i}`,
    asset: 'Beacon',
    at: [(i % 100) * 8, Math.floor(i / 100) * 8],
  }));
  return {
    format: 'oquel.project/1',
    name: 'A field of beacons',
    assets: [
      { id: 'field', kind: 'scene', size: [800, 400], placements },
      { id: 'Beacon', kind: 'prefab', events: [{ name: 'onLit', cause: { type: 'code' } }] },
    ],
  };
}

function report(what, times) {
  const sorted = [...times].sort((a, b) => a - b);
  // The nearest rank: so many of a hundred are no longer than that.
  const at = (q) => sorted[Math.ceil(q * sorted.length) - 1].toFixed(0);
  say(`${what}: median ${at(0.5)} ms, 95th percentile ${at(0.95)} ms (${times.length} times)`);
}

/** Puts into the page what the measurements share: the time from an input until a frame shows its effect. */
function install(page) {
  return page.evaluate(() => {
    const frame = () => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)));
    window.answer = async (act, shown) => {
      await frame();
      const begun = performance.now();
      act();
      for (let i = 0; i < 600; i++) {
        await frame();
        if (shown()) return performance.now() - begun;
      }
      throw new Error('the input was not answered');
    };
    window.settle = () => new Promise((resolve) => setTimeout(resolve, 400));
  });
}

/** Opens dots until things stand by themselves: what lies close together is one dot. */
async function closer(page) {
  for (let i = 0; i < 24 && (await page.locator('.thing').count()) < 40; i++) {
    const dot = page.locator('.cluster circle').first();
    if ((await dot.count()) === 0) break;
    // A thing may stand over it.
    await dot.dispatchEvent('click');
    await page.waitForTimeout(150);
  }
}

async function chooseSenders(rounds) {
  const times = [];
  const things = [...document.querySelectorAll('.thing')].map((g) => g.dataset.path);
  for (let i = 0; i < rounds; i++) {
    const path = things[(i * 37 + 5) % things.length];
    const target = document.querySelector(`.thing[data-path="${path}"] .hit`);
    const heading = () => document.querySelector('h1').textContent.startsWith(`Wire: ${path} in`);
    if (!target || heading()) continue;
    times.push(
      await window.answer(() => target.dispatchEvent(new MouseEvent('click', { bubbles: true })), heading),
    );
    await window.settle();
  }
  return times;
}

async function muteSentences(rounds) {
  const times = [];
  const things = [...document.querySelectorAll('.thing')].map((g) => g.dataset.path);
  for (let i = 0; times.length < rounds && i < 200; i++) {
    const sentence = document.querySelector('.sentence .said');
    if (!sentence || i % 4 === 3) {
      const next = document.querySelector(`.thing[data-path="${things[(i * 11) % things.length]}"] .hit`);
      next?.dispatchEvent(new MouseEvent('click', { bubbles: true }));
      await window.settle();
      continue;
    }
    const row = sentence.closest('.sentence');
    const was = row.classList.contains('off');
    const press = () => sentence.dispatchEvent(new KeyboardEvent('keydown', { key: 'm', bubbles: true }));
    times.push(
      await window.answer(press, () => document.querySelector('.sentence').classList.contains('off') !== was),
    );
    await window.settle();
  }
  return times;
}

async function filterKeys(text) {
  const times = [];
  const field = document.querySelector('input[type="search"]');
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
  for (let i = 1; i <= text.length; i++) {
    const typed = text.slice(0, i);
    const act = () => {
      set.call(field, typed);
      field.dispatchEvent(new Event('input', { bubbles: true }));
    };
    times.push(await window.answer(act, () => document.querySelector('.sheetview').dataset.filter === typed));
    await window.settle();
  }
  return times;
}

async function chooseThings(rounds) {
  const times = [];
  const things = [...document.querySelectorAll('.thing')].map((g) => g.dataset.path);
  for (let i = 0; i < rounds; i++) {
    const path = things[(i * 37 + 5) % things.length];
    const thing = () => document.querySelector(`.thing[data-path="${path}"]`);
    const hit = thing()?.querySelector('.hit');
    if (!hit || thing().classList.contains('chosen')) continue;
    const act = () => hit.dispatchEvent(new MouseEvent('click', { bubbles: true }));
    times.push(await window.answer(act, () => thing()?.classList.contains('chosen') === true));
    await window.settle();
  }
  return times;
}

/** Frames in a second while the pointer draws the plan about. */
async function pan(page) {
  const box = await page.locator('svg[role="group"]').boundingBox();
  await page.evaluate(() => {
    window.frames_ = 0;
    const count = () => {
      window.frames_++;
      requestAnimationFrame(count);
    };
    requestAnimationFrame(count);
  });
  await page.mouse.move(box.x + box.width - 20, box.y + box.height / 2);
  await page.mouse.down();
  const begun = performance.now();
  const first = await page.evaluate(() => window.frames_);
  for (let i = 0; performance.now() - begun < 4000; i++) {
    await page.mouse.move(
      box.x + box.width - 20 - 60 * Math.sin(i / 6) - 60,
      box.y + box.height / 2 + 30 * Math.cos(i / 6),
    );
  }
  const frames = (await page.evaluate(() => window.frames_)) - first;
  const seconds = (performance.now() - begun) / 1000;
  await page.mouse.up();
  return frames / seconds;
}
