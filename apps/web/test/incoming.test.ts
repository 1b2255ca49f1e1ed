import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { deflateRawSync } from 'node:zlib';
import { strToU8, unzipSync, Zip, zipSync, type ZipInputFile } from 'fflate';
import { finish, indexProject, readProjectText, type Asset, type Project } from '@oquel/core';
import { DEMO } from '../../server/test/harness.js';
import { lookAtTable } from '../src/workers/table-incoming.js';
import { readIncoming, zipOf, type Incoming, type Unfit } from '../src/workers/incoming.js';

const text = readFileSync(DEMO, 'utf8');
const demo: Project = readProjectText(text).project;
const TODAY = '2026-11-25';
const sound = (bytes: Uint8Array): Incoming => {
  const read = finish(readIncoming(bytes, TODAY));
  if ('problems' in read) throw new Error(read.message);
  return read;
};
const unfit = (bytes: Uint8Array): Unfit => {
  const read = finish(readIncoming(bytes, TODAY));
  if (!('problems' in read)) throw new Error('it was read');
  return read;
};

describe('a file that comes in', () => {
  it('is a document, audited as it would be when it is stored', () => {
    const { project, audit, unknown, text: sent } = sound(strToU8(text));
    expect(project).toEqual(demo);
    expect(JSON.parse(sent)).toEqual(demo);
    expect(audit).toMatchObject({ gate: 'stop', summary: { error: 19 } });
    expect(unknown).toEqual([]);
  });
  it('tells what the format does not know', () => {
    expect(sound(strToU8(JSON.stringify({ ...demo, mood: 'stormy' }))).unknown).toEqual(['/mood']);
  });
  it('is a zip of the folder form, wherever in it the folder lies', () => {
    const packed = zipOf(demo, []);
    expect(sound(packed).project).toEqual(demo);
    const below = Object.fromEntries(
      Object.entries(unzipSync(packed)).map(([name, bytes]) => [`some/where/${name}`, bytes]),
    );
    expect(sound(zipSync({ ...below, 'readme.txt': strToU8('not ours') })).project).toEqual(demo);
  });
  it('brings the pictures that its plans show, and no others', () => {
    const shown = `${'0a'.repeat(16)}.png`;
    const backdrop = { picture: shown, at: [0, 0], size: [40, 20] };
    const project: Project = { ...demo, assets: [{ id: 'quay', kind: 'scene', backdrop } as Asset] };
    const [bytes, other] = [strToU8('a picture'), strToU8('another')];
    const packed = zipOf(project, [
      [shown, bytes],
      [`${'0b'.repeat(16)}.png`, other],
    ]);
    expect(sound(packed).pictures).toEqual([[shown, bytes]]);
    expect(sound(zipOf(project, [])).pictures).toEqual([]);
  });
  it.each<[string, Uint8Array, RegExp]>([
    ['no JSON', strToU8('{"format": "oquel.project/1",,}'), /line 1, column 30/],
    ['cut off', zipOf(demo, []).subarray(0, 500), /cannot be unpacked/],
    ['a zip of something else', zipSync({ 'a.json': strToU8('{}') }), /no project\.json/],
    ['empty', new Uint8Array(), /end of the text/],
  ])('is refused with the reason when it is %s', (_, bytes, message) => {
    const { message: said, problems } = unfit(bytes);
    expect([said, ...problems.map((p) => `${p.expected} ${p.found}`)].join('\n')).toMatch(message);
  });
  it('is refused with the file in which it is broken', () => {
    const files = unzipSync(zipOf(demo, []));
    files['prefabs/Cabin.json'] = strToU8('{"id":"Cabin","kind":"room"}');
    expect(unfit(zipSync(files)).problems).toMatchObject([{ pointer: 'prefabs/Cabin.json/kind' }]);
    delete files['prefabs/Cabin.json'];
    expect(unfit(zipSync(files)).problems).toMatchObject([{ pointer: 'prefabs/Cabin.json', found: 'none' }]);
  });
  it('is refused before it is unpacked when that would be too large', () => {
    const size = 300 * 1024 * 1024;
    const pieces: Uint8Array[] = [];
    const zip = new Zip((_, piece) => pieces.push(piece));
    const packed: ZipInputFile = { filename: 'scenes/a.json', size, crc: 0, compression: 8 };
    zip.add(packed);
    packed.ondata!(null, deflateRawSync(new Uint8Array(size), { level: 1 }), true);
    zip.end();
    const bomb = Buffer.concat(pieces);
    expect(bomb.length).toBeLessThan(4_000_000);
    expect(unfit(bomb).message).toMatch(/larger than 256 MiB/);
  });
});

describe('a table that comes in', () => {
  const index = indexProject(demo);
  it('is looked at as its columns are called, or as they are mapped', () => {
    const csv = 'Szene,sender,event,receiver,action\npylon-ridge,mast-2,onGust,brake-2,release\n';
    const guessed = lookAtTable(index, { text: csv, file: 'a.csv', kind: null, mapping: null, owner: '' });
    expect(guessed).toMatchObject({ counts: { broken: 1 }, mapping: { sender: 1 }, changes: [] });
    const mapped = lookAtTable(index, {
      file: 'a.csv',
      kind: null,
      text: csv,
      mapping: { asset: 0, sender: 1, event: 2, receiver: 3, action: 4 },
      owner: '',
    });
    expect(mapped).toMatchObject({
      counts: { new: 1, broken: 0 },
      taken: [{ line: 2, asset: 'pylon-ridge', text: 'when mast-2.onGust do brake-2.release' }],
      changes: [{ op: 'insert', asset: 'pylon-ridge' }],
    });
    const owned = lookAtTable(index, {
      text: csv,
      file: 'a.csv',
      kind: null,
      mapping: null,
      owner: 'pylon-ridge',
    });
    expect(owned).toMatchObject({ counts: { new: 1 } });
  });
  it('tells the first rows of very many, and takes all of them', () => {
    const rows = Array.from(
      { length: 2000 },
      (_, i) => `pylon-ridge,mast-2,onGust,brake-2,release,${i / 10}`,
    );
    const look = lookAtTable(index, {
      file: 'a.csv',
      kind: null,
      text: `asset,sender,event,receiver,action,delay\n${rows.join('\n')}\n`,
      mapping: null,
      owner: '',
    });
    if ('fault' in look) throw new Error(look.fault);
    expect(look.counts.new).toBe(2000);
    expect(look.taken).toHaveLength(500);
    expect(look.changes).toHaveLength(2000);
  });
  it('that is none is reported as such', () => {
    expect(lookAtTable(index, { text: '', file: '', kind: null, mapping: null, owner: '' })).toEqual({
      fault: 'the file is empty; its first line must name the columns',
    });
  });
});
