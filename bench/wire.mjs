import { say } from '../scripts/lib/say.mjs';
import { withApp } from '../scripts/lib/app.mjs';

const ROUNDS = 40;

/** Clicks and keys from a chosen sender to a new binding, and milliseconds from an edit to the strip that tells its effect. */
export default function wire() {
  return withApp(async ({ base, page }) => {
    say(
      `from New project to the first audited binding: ${await firstBinding(base, page)} keys besides the names`,
    );
    say(
      `a gate of two properties, two events and two actions with effects: ${await gate(page)} keys besides the names`,
    );
    say(`the same by pointing: ${await gateByPointing(page)} clicks and the names`);
    const asked = await asking(page);
    say(`a condition on a sentence: ${asked.keys} keys besides names and values, or ${asked.clicks} clicks`);
    say(`one binding for each of five values: ${asked.each} clicks`);
    const demo = (await (await fetch(`${base}/api/projects`)).json()).find((p) => p.name !== NEW);
    const { id } = demo;
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

const NEW = 'Mill';
/** Counts keys; names that somebody thinks of are typed besides. */
function typist(page) {
  const counted = { keys: 0 };
  return {
    counted,
    press: async (...keys) => {
      for (const key of keys) {
        counted.keys++;
        await page.keyboard.press(key);
        await page.waitForTimeout(60);
      }
    },
    type: async (text) => {
      counted.keys += text.length;
      await page.keyboard.type(text, { delay: 15 });
    },
    name: (text) => page.keyboard.type(text, { delay: 15 }),
  };
}

/** From the list of projects to a binding and its audit, by keyboard alone. */
async function firstBinding(base, page) {
  await page.goto(base);
  await page.locator('.projectrow').first().waitFor();
  await page.getByRole('button', { name: 'New project' }).focus();
  const { counted, press, name } = typist(page);
  await press('Enter');
  await name(NEW);
  await press('Enter');
  await page.getByLabel('First scene').waitFor();
  await name('yard');
  await press('Enter');
  await page.getByRole('combobox', { name: 'Place' }).waitFor();
  await press('p');
  for (const thing of ['Bell', 'Wheel']) {
    await name(thing);
    // The name of what was placed is selected: Enter leaves it, and leads back.
    await press('Enter');
    await page.waitForTimeout(300);
    await press('Enter');
    await page.waitForTimeout(200);
  }
  // Each prefab by its name, and what it says or does.
  for (const [thing, declared] of [
    ['Bell', 'onRung'],
    ['Wheel', 'turn'],
  ]) {
    await press('Control+k');
    await page.getByRole('dialog', { name: 'Go to' }).waitFor();
    await name(thing);
    await press('Enter');
    await page.getByRole('combobox', { name: 'Add' }).waitFor();
    await page.waitForTimeout(300);
    await name(declared);
    await press('Enter');
    await page.locator(`[data-decl="${declared}"]`).waitFor();
  }
  await press('Control+k');
  await page.getByRole('dialog', { name: 'Go to' }).waitFor();
  await name('bell-1');
  await press('Enter');
  await page.locator('[data-event="onRung"]').waitFor();
  await press('a');
  await page.waitForTimeout(300);
  await name('wh');
  await press('Enter');
  await page.locator('.actionrow:focus').waitFor();
  await press('Enter');
  await page.locator('[data-event="onRung"] .sentence').waitFor();
  await page.getByText(/Gate: (passed|stopped)/).waitFor();
  return counted.keys;
}

/** In the definition of the prefab that is open: two properties, two events, two actions with effects. */
async function gate(page) {
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Plan' }).click();
  await page.getByLabel('New scene, prefab or widget').selectOption('prefab');
  await page.getByLabel('Name of the new prefab').fill('Gate');
  await page.keyboard.press('Enter');
  await page.getByRole('combobox', { name: 'Add' }).waitFor();
  await page.waitForTimeout(300);
  const { counted, press, type, name } = typist(page);
  for (const [property, value] of [
    ['isOpen', '=false'],
    ['level', '=0'],
  ]) {
    await name(property);
    await type(value);
    await press('Enter');
  }
  for (const event of ['onOpened', 'onShut']) {
    await name(event);
    await press('Enter');
  }
  for (const [action, value, event] of [
    ['open', 'true', 'onOpened'],
    ['shut', 'false', 'onShut'],
  ]) {
    await name(action);
    await type(':s');
    await press('Tab');
    await name('isOpen');
    await type(` to ${value};r`);
    await press('Tab');
    await name(event);
    await press('Enter');
    await page.locator(`[data-decl="${action}"]`).waitFor();
  }
  return counted.keys;
}

/** The same gate: names are typed, everything else is pointed at in what the line offers. */
async function gateByPointing(page) {
  await page.getByLabel('New scene, prefab or widget').selectOption('prefab');
  await page.getByLabel('Name of the new prefab').fill('Gate2');
  await page.keyboard.press('Enter');
  await page.locator('[data-decl]').first().waitFor({ state: 'detached' });
  const line = page.getByRole('combobox', { name: 'Add', exact: true });
  await line.waitFor();
  await page.waitForTimeout(300);
  let clicks = 0;
  const click = async (target) => {
    clicks++;
    await target.click();
  };
  await click(line);
  for (const [name, ...pieces] of [
    ['isOpen', ' = false'],
    ['level', ' = 0'],
    ['onOpened'],
    ['onShut'],
    ['open', ': set isOpen to true', '; raise onOpened'],
    ['shut', ': set isOpen to false', '; raise onShut'],
  ]) {
    await page.keyboard.type(name);
    for (const piece of pieces) {
      const text = page.getByText(piece, { exact: true });
      await click(page.getByRole('listbox').locator('li', { has: text }));
    }
    await click(page.getByRole('button', { name: /^Enter adds/ }));
    await page.locator(`[data-decl="${name}"]`).waitFor();
  }
  return clicks;
}

/** On a sentence of the bell: a condition by keys, another by pointing, and one binding for each of five values. */
async function asking(page) {
  const declare = async (line, text) => {
    await line.fill(text);
    await line.press('Enter');
    await page.waitForFunction((el) => el.value === '', await line.elementHandle());
  };
  const base = page.url().replace(/\/plan.*/, '');
  await page.goto(`${base}/catalogue`);
  await declare(page.getByRole('combobox', { name: 'Declare' }), 'enum Mood: calm, gay, sad, wild, grave');
  await page.goto(`${base}/plan?scope=Bell`);
  await declare(
    page.getByRole('combobox', { name: 'Add', exact: true }),
    'onStruck(mood: enum:Mood, force: int) from code',
  );
  await page.goto(`${base}/wire?scope=yard&at=bell-1`);
  const wire = page.getByPlaceholder(/^when mast-2/);
  for (let i = 0; i < 3; i++) await declare(wire, `when bell-1.onStruck do wheel-1.turn after ${i}s`);
  const sentences = page.locator('[data-event="onStruck"] .sentence');
  await sentences.nth(2).waitFor();

  const { counted, press, type, name } = typist(page);
  await sentences.first().locator('.said').focus();
  await press('i');
  await page.getByRole('combobox', { name: 'if', exact: true }).waitFor();
  await name('$f');
  await press('Tab');
  await type('>');
  await name('3');
  await press('Enter');
  await sentences.first().getByText('if $force > 3').waitFor();

  let clicks = 0;
  const click = async (target) => {
    clicks++;
    await target.click();
  };
  await click(sentences.nth(1).getByRole('button', { name: 'if', exact: true }));
  await click(page.getByRole('option', { name: '$mood = "sad"' }));
  await click(page.getByRole('button', { name: 'Enter lets it act only if $mood = "sad"' }));
  await sentences.nth(1).getByText('if $mood = "sad"').waitFor();

  let each = 0;
  each++;
  await sentences.nth(2).locator('.said').click({ button: 'right' });
  each++;
  await page.getByRole('menuitem', { name: 'One for each mood' }).click();
  await sentences.nth(6).waitFor();
  return { keys: counted.keys, clicks, each };
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
