import { say } from '../scripts/lib/say.mjs';
import { withApp } from '../scripts/lib/app.mjs';

const ROUNDS = 40;

/** Clicks and keys from a chosen sender to a new binding, and milliseconds from an edit to the strip that tells its effect. */
export default function wire() {
  return withApp(async ({ base, page }) => {
    const [{ id }] = await (await fetch(`${base}/api/projects`)).json();
    await page.goto(`${base}/p/${id}/wire?scope=pylon-ridge&at=mast-2`);
    await page.getByText(/Gate:/).waitFor();
    say(`by pointing: ${await byPointing(page)} clicks from the chosen sender to the new binding`);
    say(`by typing:   ${await byTyping(page)} keys`);
    const times = await editTimes(page);
    const at = (q) => times[Math.min(times.length - 1, Math.floor(q * times.length))].toFixed(0);
    say(
      `edit to updated strip, ${ROUNDS} edits on the demo: median ${at(0.5)} ms, 95th percentile ${at(0.95)} ms`,
    );
    return 0;
  });
}

async function byPointing(page) {
  let clicks = 0;
  const click = async (target) => {
    clicks++;
    await target.click();
  };
  await click(page.locator('[data-event="onCalm"]').getByRole('button', { name: 'Add a receiver' }));
  await click(page.locator('.thing[data-path="brake-3"]'));
  await click(page.getByRole('button', { name: /^release/ }));
  await page.locator('[data-event="onCalm"] .sentence').nth(1).waitFor();
  return clicks;
}

async function byTyping(page) {
  let keys = 0;
  const press = async (key) => {
    keys++;
    await page.keyboard.press(key);
  };
  await page.locator('[data-event="onGust"] h2').click();
  await press('a');
  for (const key of ['b', 'r', 'Enter']) await press(key);
  await page.locator('.actionrow:focus').waitFor();
  await press('Enter');
  await page.locator('[data-event="onGust"] .sentence').nth(3).waitFor();
  return keys;
}

/** Mutes and unmutes a binding; the page itself takes the time from the key to the strip. */
async function editTimes(page) {
  await page.evaluate(() => {
    const times = (window.oquelTimes = []);
    let begun = 0;
    window.addEventListener('keydown', (e) => e.key === 'm' && (begun = performance.now()), true);
    const last = document.querySelector('.strip .last');
    new MutationObserver(() => {
      if (begun === 0 || last.textContent.includes('auditing')) return;
      times.push(performance.now() - begun);
      begun = 0;
    }).observe(last, { childList: true, subtree: true, characterData: true });
  });
  for (let i = 0; i < ROUNDS; i++) {
    const said = page.locator('[data-binding="gust-2c"] .said');
    await said.focus();
    await page.keyboard.press('m');
    await page.waitForFunction((n) => window.oquelTimes.length > n, i);
  }
  return (await page.evaluate(() => window.oquelTimes)).sort((a, b) => a - b);
}
