import { say } from '../scripts/lib/say.mjs';
import { withApp } from '../scripts/lib/app.mjs';
import { generate } from './lib/generator.mjs';

const SECONDS = 30;
const ROUNDS = 5;
/** Milliseconds between the audit of what was opened and the first edit. */
const LOOK = 5000;

/**
 * Walking for 30 seconds over 5 000 things that answer, counted in frames; and the time from the key in Wire, right after an
 * edit there, to the walk with the edited wiring, at 100 000 expanded bindings; the first edit comes five seconds after the
 * audit. Goals: 50 frames a second, one second.
 */
export default function walkBench(args) {
  const size = Number(args[0] ?? 100_000);
  return withApp(async ({ base, page }) => {
    const field = await importProject(base, fieldOfMats(5000));
    await page.goto(`${base}/p/${field}/rehearse/walk?scene=field`);
    await page.locator('[data-walker]').waitFor({ timeout: 60_000 });
    await page.getByText(/Gate:/).waitFor({ timeout: 120_000 });
    const frames = await page.evaluate(walkAbout, SECONDS);
    const log = await page.locator('.log .soft').first().innerText();
    const sorted = [...frames].sort((a, b) => a - b);
    say(
      `walking for ${SECONDS} s over 5 000 things: ${((1000 * frames.length) / frames.reduce((a, b) => a + b)).toFixed(0)} frames a second, 99 of 100 within ${sorted[Math.floor(sorted.length * 0.99)].toFixed(0)} ms; ${log} records`,
    );

    const id = await importProject(base, generate(size));
    const project = await (await fetch(`${base}/api/projects/${id}/document`)).json();
    const scene = project.assets.find((a) => a.kind === 'scene');
    const wire = `${base}/p/${id}/wire?scope=${scene.id}&at=${senderOf(scene)}`;
    await page.goto(wire);
    await page.getByText(/Gate:/).waitFor({ timeout: 120_000 });
    // Somebody looks before anything is edited.
    await page.waitForTimeout(LOOK);
    const times = [];
    for (let i = 0; i < ROUNDS; i++) {
      await page.locator('.said').first().focus();
      await page.keyboard.press('m');
      await page.evaluate(listenForWalk);
      await page.keyboard.press('t');
      times.push(await page.evaluate(() => window.walked));
      await page.goBack();
      await page.locator('.said').first().waitFor();
      await page.locator('[data-saving="saved"]').waitFor();
      await page.waitForTimeout(1500);
    }
    say(
      `from an edit in Wire to the walk with it, ${size} expanded bindings: ${times.map((t) => t.toFixed(0)).join(', ')} ms (goal 1000)`,
    );
    return 0;
  });
}

function senderOf(scene) {
  return scene.bindings.find((b) => 'at' in b.from && b.from.at !== '.').from.at;
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

/** Mats side by side, each of which lights three others when it is stepped on; every tenth is asleep. */
function fieldOfMats(count) {
  const name = (i) => `mat-${i % count}`;
  const placements = Array.from({ length: count }, (_, i) => ({
    id: name(i),
    asset: 'Mat',
    at: [(i % 100) * 4, Math.floor(i / 100) * 4],
    ...(i % 10 === 9 ? { asleep: true } : {}),
  }));
  placements.push({ id: 'start', asset: 'Walker', at: [2, 100], entry: true });
  const bindings = [];
  for (let i = 0; i < count; i++) {
    for (const other of [i + 1, i + 100, i + 317]) {
      bindings.push({
        id: `b-${bindings.length}`,
        from: { at: name(i), event: 'onStepped' },
        to: { at: name(other), action: 'light' },
        delay: 0.2,
      });
    }
  }
  return {
    format: 'oquel.project/1',
    name: 'A field of mats',
    assets: [
      { id: 'field', kind: 'scene', size: [400, 200], placements, bindings },
      { id: 'Walker', kind: 'prefab' },
      {
        id: 'Mat',
        kind: 'prefab',
        area: { circle: 1.5 },
        properties: [{ name: 'lit', type: 'bool', default: false }],
        events: [{ name: 'onStepped', cause: { type: 'area-enter' } }],
        actions: [{ name: 'light', effects: [{ toggle: 'lit' }] }],
      },
    ],
  };
}

/**
 * Makes `window.walked` the promise of the milliseconds from the next press of `t` to the frame after the one that draws the
 * walker; measured in the page, since a test driver looks only from time to time.
 */
function listenForWalk() {
  window.walked = new Promise((resolve) => {
    const began = (event) => {
      if (event.key !== 't') return;
      window.removeEventListener('keydown', began, true);
      const turn = () => {
        // The walk of the round before is not drawn before the edit is in it.
        if (document.querySelector('[data-walker]')) {
          requestAnimationFrame(() => resolve(performance.now() - event.timeStamp));
        } else requestAnimationFrame(turn);
      };
      requestAnimationFrame(turn);
    };
    window.addEventListener('keydown', began, true);
  });
}

/** Holds an arrow key down, and then another, and gives the milliseconds of each frame. */
function walkAbout(seconds) {
  const key = (type, name) => window.dispatchEvent(new KeyboardEvent(type, { key: name, bubbles: true }));
  const press = (type, name) =>
    document.body.dispatchEvent(new KeyboardEvent(type, { key: name, bubbles: true }));
  return new Promise((resolve) => {
    const frames = [];
    const ways = ['ArrowRight', 'ArrowDown', 'ArrowRight', 'ArrowUp'];
    let [begun, last, way] = [0, 0, -1];
    const turn = (now) => {
      if (begun === 0) [begun, last] = [now, now];
      else frames.push(now - last);
      last = now;
      const next = Math.floor((now - begun) / 3000);
      if (next !== way) {
        if (way >= 0) key('keyup', ways[way % ways.length]);
        way = next;
        press('keydown', ways[way % ways.length]);
      }
      if (now - begun < seconds * 1000) requestAnimationFrame(turn);
      else resolve(frames);
    };
    requestAnimationFrame(turn);
  });
}
