import { say } from '../scripts/lib/say.mjs';
import { withApp } from '../scripts/lib/app.mjs';

const COLUMNS = 10;

/**
 * A ripple of many entries, none folded: how long the worker takes to follow it, lay it out and put it into words, and how
 * many frames a second the picture is panned at. Goals: under 300 ms, 50 frames.
 */
export default function rippleBench(args) {
  const entries = Number(args[0] ?? 10_000);
  const rows = Math.round(entries / COLUMNS);
  return withApp(async ({ base, page }) => {
    const answer = await fetch(`${base}/api/projects`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(lattice(rows)),
    });
    if (!answer.ok) throw new Error(await answer.text());
    const { id } = await answer.json();
    // Every fold open: a fold is named by twice its hop, its asset and its place among events and actions.
    const open = Array.from({ length: COLUMNS }, (_, i) => `${2 * (i + 1)}/1/1`).join('|');
    await page.goto(`${base}/p/${id}/ripple?at=field:start&name=onLit&open=${encodeURIComponent(open)}`);
    await page.locator('[data-took]').waitFor({ timeout: 60_000 });
    const reached = await page.locator('.ripplesays').innerText();
    say(`${COLUMNS} columns of ${rows}: ${reached.replace(/\s+/g, ' ')}`);
    const times = [];
    for (let i = 0; i < 9; i++) {
      await page.getByRole('button', { name: i % 2 === 0 ? 'seconds' : 'hops', exact: true }).click();
      await page.waitForTimeout(1500);
      times.push(Number(await page.locator('[data-took]').getAttribute('data-took')));
    }
    times.sort((a, b) => a - b);
    say(
      `followed, laid out and put into words in the worker: median ${times[4].toFixed(0)} ms, worst ${times[8].toFixed(0)} ms (9 times)`,
    );
    const drawn = await page.locator('.rippleentry').count();
    const frames = await page.evaluate(pan, 3000);
    say(
      `panning at 1 500 pixels a second: ${frames.toFixed(0)} frames a second, about ${drawn} entries drawn at a time`,
    );
    return 0;
  });
}

/** Beacons in columns; each lights the one beside it in the next column, and every third one more. */
function lattice(rows) {
  const name = (c, r) => `beacon-${c}-${r}`;
  const placements = [{ id: 'start', asset: 'Beacon', at: [0, 0] }];
  const bindings = [];
  const bind = (from, to) =>
    bindings.push({
      id: `b-${bindings.length}`,
      from: { at: from, event: 'onLit' },
      to: { at: to, action: 'light' },
    });
  for (let c = 0; c < COLUMNS; c++) {
    for (let r = 0; r < rows; r++) {
      placements.push({ id: name(c, r), asset: 'Beacon', at: [c * 10 + 10, r] });
      bind(c === 0 ? 'start' : name(c - 1, r), name(c, r));
      if (c > 0 && r % 3 === 0) bind(name(c - 1, r), name(c, (r * 7) % rows));
    }
  }
  return {
    format: 'oquel.project/1',
    name: 'A lattice of beacons',
    assets: [
      { id: 'field', kind: 'scene', size: [200, rows], placements, bindings },
      {
        id: 'Beacon',
        kind: 'prefab',
        events: [{ name: 'onLit', cause: { type: 'raised' } }],
        actions: [{ name: 'light', effects: [{ raise: 'onLit', delay: 0.1 }] }],
      },
    ],
  };
}

/** Scrolls the picture down at 1 500 pixels a second and to and fro, and counts the frames. */
function pan(ms) {
  const pane = document.querySelector('.ripplepane');
  return new Promise((resolve) => {
    let frames = 0;
    const begun = performance.now();
    const step = () => {
      frames++;
      const t = performance.now() - begun;
      pane.scrollTop = t * 1.5;
      pane.scrollLeft = 300 + 300 * Math.sin(t / 400);
      if (t < ms) requestAnimationFrame(step);
      else resolve((1000 * frames) / t);
    };
    requestAnimationFrame(step);
  });
}
