import { join } from 'node:path';
import { withApp } from './lib/app.mjs';
import { installNpmPackages } from './lib/packages.mjs';
import { ROOT } from './lib/root.mjs';
import { runScript, say } from './lib/say.mjs';

/** How each picture of `docs/screenshots` comes about, on the demo. */
const PICTURES = {
  wire: (p) => p.open('wire?scope=pylon-ridge&at=mast-2'),
  finder: async (p) => {
    await p.open('wire?scope=pylon-ridge&at=mast-2');
    await p.page.locator('[data-event="onGust"]').getByRole('button', { name: 'Add a receiver' }).click();
  },
  lines: async (p) => {
    await p.open('wire?scope=pylon-ridge&at=mast-2');
    await p.paste([
      'when mast-2.onGust do brake-2.engage(force = $speed)',
      'when mast-2.onGust do brake-1.engage(force = $speed)',
      'when mast-2.onCalm do brake-9.release',
      'when mast-2.onCalm brake-1.engage',
      'when mast-2.onCalm do every TrackBrake [line = @line].release after 2s',
    ]);
    await p.page.getByRole('dialog', { name: 'Pasted lines' }).waitFor();
  },
  plan: (p) => p.open('plan?scope=pylon-ridge&chosen=mast-2'),
  declarations: (p) => p.open('plan?scope=WindMast'),
  sheet: async (p) => {
    await p.open('wire/sheet?scope=pylon-ridge&q=onGust%20brake');
    await p.page.locator('[data-row]').first().click();
    await p.page.keyboard.press('Control+a');
    await p.page.getByLabel('Change', { exact: true }).selectOption('delay');
    await p.page.getByLabel('seconds', { exact: true }).fill('0.5');
  },
  ripple: (p) => p.open('ripple?at=pylon-ridge:mast-1&event=onGust'),
  crossings: (p) => p.open('crossings'),
  catalogue: (p) => p.open('catalogue?entry=event%3ALineController%2FonHalt'),
  rehearse: async (p) => {
    await p.open('rehearse?name=Boarding%20at%20the%20west%20platform');
    await p.page.waitForTimeout(600);
  },
  walk: async (p) => {
    await p.open('rehearse/walk?scene=valley-station&at=mat-6');
    await p.page.locator('[data-walker]').waitFor();
    await p.page.keyboard.down('ArrowUp');
    await p.page.getByText('In mat-6.').waitFor();
    await p.page.keyboard.up('ArrowUp');
    await p.page.getByText('cabin-6 does closeDoors').waitFor();
    await p.page.getByRole('button', { name: 'hold time' }).click();
  },
  plays: async (p) => {
    await p.open('rehearse/plays');
    await p.page.getByLabel('What the game had loaded').selectOption('ascent');
    const line = (record) => `${JSON.stringify(record)}\n`;
    const mat = { kind: 'raise', at: 'valley-station:mat-6', event: 'onStepped' };
    const does = (at, action, t) => line({ kind: 'performed', at: `valley-station:${at}`, action, t });
    const play = [0, 1, 2, 3].map(
      (i) =>
        line({ ...mat, t: i * 9e6 }) +
        does('beacon-7', 'light', i * 9e6) +
        does('beacon-7', 'dim', i * 9e6) +
        (i === 2 ? '' : does('cabin-6', 'closeDoors', i * 9e6 + 2e6)),
    );
    play.push(
      does('horn-1', 'sound', 28e6),
      line({ ...mat, at: 'valley-station:gondola-1', t: 29e6 }),
      '{"kind"\n',
    );
    await p.page.getByLabel('A trace of a game').setInputFiles({
      name: 'evening.jsonl',
      mimeType: 'application/x-ndjson',
      buffer: Buffer.from(play.join('')),
    });
    await p.page.getByRole('article').waitFor();
    await p.page.waitForTimeout(500);
  },
  coverage: async (p) => {
    await p.open('rehearse?shows=all');
    await p.page.getByRole('button', { name: 'Run all' }).click();
    await p.page.getByText('runs away').first().waitFor();
  },
  audit: (p) => p.open('audit?rule=relay-cycle'),
  figures: (p) => p.open('audit?tab=figures'),
  builds: (p) => p.open('builds'),
  exchange: async (p) => {
    await p.open('exchange');
    const rows = [
      'scene,from,event,to,action,args,times,delay',
      'pylon-ridge,mast-2,onGust,brake-2,engage,force = $speed,,0.5',
      'pylon-ridge,mast-2,onCalm,every TrackBrake [line = @line],release,,,',
      'pylon-rigde,mast-2,onCalm,brake-1,release,,0,soon',
      'summit-refuge,gauge-7,onOverload,horn-3,sound,announcement = = "ice",,',
      'pylon-ridge,mast-2',
    ];
    await p.page
      .getByLabel('File to import')
      .setInputFiles({ name: 'brakes.csv', mimeType: 'text/csv', buffer: Buffer.from(rows.join('\n')) });
    await p.page.getByText('Some names need a decision.').waitFor();
  },
  projects: async (p) => {
    await p.page.goto(p.base);
    await p.page.locator('.projectrow').first().waitFor();
  },
};

/** The same on a team's server. */
const TEAM_PICTURES = {
  people: async ({ base, page, printed }) => {
    for (let i = 0; i < 100 && !printed().includes('/join#'); i++) await page.waitForTimeout(50);
    const join = async (on, secret, name) => {
      await on.goto(`${base}/join#${secret}`);
      await on.getByLabel('Your name').fill(name);
      await on.getByLabel('Sign-in name').fill(name.toLowerCase().replace(' ', '.'));
      await on.getByRole('textbox', { name: 'Password' }).fill('a ropeway over the gorge');
      await on.getByRole('button', { name: 'Join' }).click();
      await on.getByRole('button', { name: 'New project' }).waitFor();
    };
    await join(page, /join#(\S+)/.exec(printed())[1], 'Ada Lind');
    const [{ id }] = await (await page.request.get(`${base}/api/projects`)).json();
    for (const [name, role] of [
      ['Bo Marsh', 'lead'],
      ['Cleo Hart', 'designer'],
    ]) {
      const data = { note: name, role };
      const made = await page.request.post(`${base}/api/projects/${id}/invitations`, { data });
      const other = await page.context().browser().newPage();
      await join(other, (await made.json()).secret, name);
      await other.close();
    }
    await page.goto(`${base}/people`);
    await page.getByLabel('Whom it is for').fill('Dov');
    await page.getByRole('button', { name: 'Make a link' }).click();
    await page.getByText('The link for Dov').first().waitFor();
  },
};

/** Takes the pictures anew: `npm run screenshots [NAME ...]`. */
await runScript(async () => {
  const asked = process.argv.slice(2);
  await installNpmPackages();
  const wanted = (pictures) => Object.keys(pictures).filter((n) => asked.length === 0 || asked.includes(n));
  if (wanted(PICTURES).length > 0) await withApp((app) => take(app, PICTURES, wanted(PICTURES)));
  if (wanted(TEAM_PICTURES).length > 0)
    await withApp((app) => take(app, TEAM_PICTURES, wanted(TEAM_PICTURES)), { OQUEL_TEAM: '1' });
  return 0;
});

async function take({ base, page, printed }, pictures, names) {
  const open = async (view) => {
    const [{ id }] = await (await fetch(`${base}/api/projects`)).json();
    await page.goto(`${base}/p/${id}/${view}`);
    await page.getByText(/Gate:/).waitFor();
    await page.waitForTimeout(700);
  };
  const paste = (lines) =>
    page.evaluate((text) => {
      const { DataTransfer, ClipboardEvent, document } = globalThis;
      const data = new DataTransfer();
      data.setData('text/plain', text);
      const event = new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true });
      (document.activeElement ?? document.body).dispatchEvent(event);
    }, lines.join('\n'));
  for (const name of names) {
    await pictures[name]({ base, page, printed, open, paste });
    await page.waitForTimeout(500);
    await page.screenshot({ path: join(ROOT, `docs/screenshots/${name}.png`) });
    say(name);
  }
}
