import { existsSync, mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { DEMO, oquel, written } from './harness.js';

const folder = mkdtempSync(join(tmpdir(), 'oquel-begin-'));

describe('oquel init', () => {
  it.each([
    ['a folder', 'harbour', []],
    ['a document', 'harbour.json', []],
    ['of another name', 'quay', ['--name', 'The quay', '--scene', 'pier']],
  ])('makes a project that is sound: %s', async (_what, to, flags) => {
    const made = await oquel('init', join(folder, to), ...flags);
    expect(made.code).toBe(0);
    const { code, out } = await oquel('audit', join(folder, to), '--format', 'json');
    expect(code).toBe(0);
    expect(JSON.parse(out)).toMatchObject({
      project: flags[1] ?? 'harbour',
      findings: [],
      metrics: { instances: 1 },
    });
  });
  it.each([
    ['what is there already', 'harbour', [], /is there already; nothing was written/],
    ['another ending', 'new.yaml', [], /a document ends in \.json, a folder has no ending/],
    ['no name', ' ', [], /the name of the project is empty/],
    [
      'a scene that is no name',
      'new',
      ['--scene', '1 b'],
      /expected a name .* found "1 b" at \/assets\/0\/id/,
    ],
    ['no name of the project', 'new', ['--name', ''], /at \/name/],
  ])('refuses %s, and writes nothing', async (_what, to, flags, says) => {
    const before = readdirSync(folder);
    const { code, err } = await oquel('init', to.trim() === '' ? to : join(folder, to), ...flags);
    expect(code).toBe(2);
    expect(err).toMatch(says);
    expect(readdirSync(folder)).toEqual(before);
    expect(existsSync(join(folder, 'new'))).toBe(false);
  });
});

describe('oquel ripple', () => {
  it('prints what follows, hop by hop, and what leads there', async () => {
    const on = await oquel('ripple', DEMO, 'pylon-ridge:mast-2.onGust');
    expect(on.out.split('\n').slice(0, 3)).toEqual([
      'pylon-ridge:mast-2.onGust',
      '  pylon-ridge:brake-1.engage',
      '    pylon-ridge:winch-3.slow, by onEngaged',
    ]);
    const back = await oquel('ripple', DEMO, 'pylon-ridge:brake-1.engage', '--back');
    expect(back.out).toContain('\n  pylon-ridge:mast-2.onGust, from outside\n');
  });
  it.each([
    ['all copies', 'WindMast.onGust', 'text', /^WindMast\.onGust x \d/],
    ['a channel', '#tension', 'text', /#tension\["east"\]/],
    ['a thing without a name', 'pylon-ridge:mast-2', 'text', /mast-2\.onCalm/],
    ['as Mermaid', 'pylon-ridge:mast-2.onGust', 'mermaid', /flowchart LR/],
    ['as DOT', 'pylon-ridge:mast-2.onGust', 'dot', /^digraph /],
  ])('begins with %s', async (_what, start, format, says) => {
    const { code, out } = await oquel('ripple', DEMO, start, '--format', format);
    expect(code).toBe(0);
    expect(out).toMatch(says);
  });
  it('begins with what a scene itself raises', async () => {
    const file = written(folder, 'yard.json', {
      format: 'oquel.project/1',
      name: 'Yard',
      assets: [
        {
          id: 'yard',
          kind: 'scene',
          events: [{ name: 'onDusk', cause: { type: 'code' } }],
          placements: [{ id: 'lamp', asset: 'Lamp' }],
          bindings: [{ id: 'b', from: { at: '.', event: 'onDusk' }, to: { at: 'lamp', action: 'light' } }],
        },
        { id: 'Lamp', kind: 'prefab', actions: [{ name: 'light' }] },
      ],
    });
    const wanted = 'yard:..onDusk\n  yard:lamp.light\n';
    expect((await oquel('ripple', file, 'yard:.')).out).toBe(wanted);
    expect((await oquel('ripple', file, 'yard:..onDusk')).out).toBe(wanted);
  });
  it.each(['nowhere:x.onGust', 'pylon-ridge:mast-2.onNothing', 'Nobody', '#nothing', ''])(
    'says what was expected where nothing is named: "%s"',
    async (start) => {
      const { code, out, err } = await oquel('ripple', DEMO, start);
      expect([code, out]).toEqual([2, '']);
      expect(err).toContain('expected scene:thing.event, Prefab.event or #channel');
    },
  );
});

describe('oquel catalogue', () => {
  it('prints all that is declared, in each format', async () => {
    const [html, json, csv] = await Promise.all(
      ['html', 'json', 'csv'].map(async (format) => (await oquel('catalogue', DEMO, '--format', format)).out),
    );
    expect(html).toMatch(/^<!doctype html>/i);
    expect(JSON.stringify(JSON.parse(json))).toContain('onDocked');
    expect(csv.split('\n').length).toBeGreaterThan(100);
    for (const text of [html, json, csv]) expect(text).toContain('tension');
  });
  it('of an empty project has no entry', async () => {
    const file = written(folder, 'none.json', { format: 'oquel.project/1', name: 'None', assets: [] });
    const { out } = await oquel('catalogue', file, '--format', 'csv');
    expect(out.trim().split('\n')).toHaveLength(1);
    expect(readFileSync(file, 'utf8')).toContain('None');
  });
});

describe('what every command can do', () => {
  it.each([
    ['audit', DEMO, '--today', '2026-11-24'],
    ['catalogue', DEMO, '--format', 'json'],
    ['ripple', DEMO, '#tension'],
    ['rehearse', DEMO, '--trace', '--format', 'json'],
    ['schema'],
  ])('prints into a file, and ends as before: %s', async (...args) => {
    const file = join(folder, 'out', `${args[0]}.txt`);
    const plain = await oquel(...args);
    const { code, out } = await oquel(...args, '--output', file);
    expect([code, out]).toEqual([plain.code, '']);
    expect(readFileSync(file, 'utf8')).toBe(plain.out);
  });
  it('leaves a file as it is where nothing comes of it', async () => {
    const file = written(folder, 'kept.txt', 'kept');
    expect((await oquel('audit', join(folder, 'nowhere.json'), '--output', file)).code).toBe(2);
    expect(readFileSync(file, 'utf8')).toBe('kept');
    const { code, err } = await oquel('schema', '--output', join(file, 'below'));
    expect([code, err]).toEqual([2, expect.stringContaining('cannot be written')]);
  });
  it('leaves out notes when it is to be quiet, and no error', async () => {
    const file = written(folder, 'noted.json', {
      format: 'oquel.project/1',
      name: 'Noted',
      assets: [],
      mood: 'grey',
    });
    expect((await oquel('audit', file)).err).toContain('unknown property at /mood');
    expect(await oquel('audit', file, '--quiet')).toMatchObject({ code: 0, err: '' });
    expect((await oquel('audit', join(folder, 'nowhere.json'), '--quiet')).err).toContain('does not exist');
  });
});
