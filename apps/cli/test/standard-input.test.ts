import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from '@jest/globals';
import { DEMO, oquel, written } from './harness.js';

const BIN = fileURLToPath(new URL('../../../dist/package/oquel.mjs', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'oquel-stdin-'));
const demo = readFileSync(DEMO);

function fed(input: string | Buffer, ...args: string[]): { code: number | null; out: string; err: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, [BIN, ...args], {
    input,
    encoding: 'utf8',
    cwd: folder,
    maxBuffer: 64 * 1024 * 1024,
  });
  return { code: status, out: stdout, err: stderr };
}

describe('a document on standard input', () => {
  it.each([
    ['audit', '--today', '2026-11-24'],
    ['audit', '--today', '2026-11-24', '--format', 'json'],
    ['rehearse'],
    ['graph', '--format', 'csv'],
    ['names', '--format', 'schema'],
  ])('is read as a file is: %s', async (command, ...flags) => {
    const given = fed(demo, command, '-', ...flags);
    const { code, out } = await oquel(command, DEMO, ...flags);
    expect(given).toMatchObject({ code, out });
  });
  it('is the one of two that are compared', async () => {
    const other = written(folder, 'other.json', { format: 'oquel.project/1', name: 'Other', assets: [] });
    expect(fed(demo, 'compare', '-', other)).toMatchObject(await oquel('compare', DEMO, other));
    expect(fed(demo, 'compare', '-', '-')).toMatchObject({
      code: 2,
      err: expect.stringContaining('only one of the two can come from standard input'),
    });
  });
  it('has its places in a report', () => {
    const { out } = fed(demo, 'audit', '-', '--format', 'sarif', '--today', '2026-11-24');
    const { results } = (
      JSON.parse(out) as { runs: [{ results: { locations: [{ physicalLocation: object }] }[] }] }
    ).runs[0];
    expect(results[0].locations[0].physicalLocation).toMatchObject({
      artifactLocation: { uri: 'standard-input.json' },
      region: { startLine: expect.any(Number) },
    });
  });
  it.each<[string, string | Buffer, RegExp]>([
    ['nothing', '', /standard input is not a valid project/],
    ['no JSON', '{"format": ', /standard input is not a valid project/],
    ['no project', '[]', /standard input is not a valid project/],
    ['no UTF-8', Buffer.from([0x22, 0xff, 0x22]), /standard input is not UTF-8/],
  ])('is refused by name: %s', (_what, input, says) => {
    const { code, out, err } = fed(input, 'audit', '-');
    expect([code, out]).toEqual([2, '']);
    expect(err).toMatch(says);
  });
  it('is never written over', () => {
    const manifest = written(folder, 'manifest.json', {
      format: 'oquel.declarations/1',
      name: 'n',
      assets: [],
    });
    const { code, err } = fed(demo, 'merge', '-', manifest);
    expect(code).toBe(2);
    expect(err).toContain('cannot come from standard input; use --check');
    expect(existsSync(join(folder, '-'))).toBe(false);
  });
});
