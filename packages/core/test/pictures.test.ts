import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  BrokenDocument,
  fittedBackdrop,
  pictureKind,
  picturesOf,
  readProject,
  scaledBackdrop,
  type Backdrop,
  type Project,
  type Vec2,
} from '../src/index.js';

const NAME = `${'0a'.repeat(16)}.png`;
const bytes = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));

describe('what kind of picture bytes are', () => {
  it.each([
    ['png', '\x89PNG\r\n\x1a\n....'],
    ['jpg', '\xff\xd8\xff\xe0'],
    ['webp', 'RIFF\x00\x00\x00\x00WEBPVP8 '],
    ['svg', '<svg xmlns="http://www.w3.org/2000/svg"/>'],
    ['svg', '<?xml version="1.0"?>\n<!-- drawn by hand -->\n<svg>'],
    [null, '<html><svg></svg></html>'],
    [null, 'RIFF\x00\x00\x00\x00WAVE'],
    [null, 'GIF89a'],
    [null, ''],
    [null, '{"svg": 1}'],
  ])('%s: %j', (kind, text) => expect(pictureKind(bytes(text))).toBe(kind));
});

describe('a picture under a plan', () => {
  it('fits the plan with its own proportions', () => {
    expect(fittedBackdrop(NAME, [400, 200], [100, 80])).toEqual({
      picture: NAME,
      at: [0, 0],
      size: [100, 50],
    });
    expect(fittedBackdrop(NAME, [200, 400], [100, 80])).toEqual({
      picture: NAME,
      at: [0, 0],
      size: [40, 80],
    });
  });
  it('is scaled so that two points lie as far apart as they do in the game, the first where it was', () => {
    const place = ({ at, size }: Backdrop, [u, v]: Vec2): Vec2 => [at[0] + u * size[0], at[1] + v * size[1]];
    const before: Backdrop = { picture: NAME, at: [10, 20], size: [80, 40] };
    // Shares of the picture, and the metres that lie between them.
    for (const [a, b, metres] of [
      [[0.25, 0.5], [0.75, 0.5], 12],
      [[0, 0], [1, 1], 250],
      [[0.9, 0.1], [0.1, 0.8], 40],
    ] as [Vec2, Vec2, number][]) {
      const after = scaledBackdrop(before, place(before, a), place(before, b), metres)!;
      const [p, q] = [place(after, a), place(after, b)];
      expect(Math.hypot(q[0] - p[0], q[1] - p[1])).toBeCloseTo(metres, 1);
      expect(p[0]).toBeCloseTo(place(before, a)[0], 1);
      expect(p[1]).toBeCloseTo(place(before, a)[1], 1);
    }
  });
  it.each([
    ['one point twice', [5, 5], [5, 5], 10],
    ['no distance', [0, 0], [5, 5], 0],
    ['not a number', [0, 0], [5, 5], NaN],
    ['beyond all bounds', [0, 0], [0.01, 0], 1e9],
  ] as [string, Vec2, Vec2, number][])('is not scaled by %s', (_, from, to, metres) => {
    expect(scaledBackdrop({ picture: NAME, at: [0, 0], size: [80, 40] }, from, to, metres)).toBeNull();
  });
  it('is part of the scene: read, refused with its place, set and taken back', () => {
    const backdrop = { picture: NAME, at: [0, 0], size: [80, 40], dim: 0.25 };
    const project = (picture: string): unknown => ({
      format: 'oquel.project/1',
      name: 'Quay',
      assets: [{ id: 'quay', kind: 'scene', backdrop: { ...backdrop, picture } }],
    });
    const read = readProject(project(NAME)).project;
    expect(picturesOf(read)).toEqual([NAME]);
    expect(() => readProject(project('../secret.png'))).toThrow(BrokenDocument);
    const bare: Project = { ...read, assets: [{ id: 'quay', kind: 'scene' }] };
    const done = applyChanges(bare, [
      { op: 'set', asset: 'quay', part: 'backdrop', value: backdrop as Backdrop },
    ]);
    expect(done.project.assets[0].backdrop).toEqual(backdrop);
    expect(applyChanges(done.project, done.inverse).project).toEqual(bare);
  });
});
