import type { Backdrop, Project, Vec2 } from './types.js';

/** Pictures that can lie under a plan, by the ends of their file names. */
export const PICTURE_TYPES = {
  png: 'image/png',
  jpg: 'image/jpeg',
  webp: 'image/webp',
  svg: 'image/svg+xml',
} as const;
export type PictureKind = keyof typeof PICTURE_TYPES;

/** Bounds: bytes of one picture, pictures of one project, and the folder beside a document in which they stand. */
export const MOST_PICTURE_BYTES = 8 * 1024 * 1024;
export const MOST_PICTURES = 100;
export const PICTURES_FOLDER = 'pictures';
/** A name says what is in it: a hash of the bytes, so that one name always means one picture. */
export const PICTURE_NAME = /^[0-9a-f]{32}\.(png|jpg|webp|svg)$/;
/** Metres of a side of a backdrop. */
const MOST_METRES = 100_000;

/** What kind of picture bytes are, by how they begin; null for something else. */
export function pictureKind(bytes: Uint8Array): PictureKind | null {
  const begins = (at: number, ...codes: number[]): boolean => codes.every((c, i) => bytes[at + i] === c);
  if (begins(0, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'png';
  if (begins(0, 0xff, 0xd8, 0xff)) return 'jpg';
  if (begins(0, 0x52, 0x49, 0x46, 0x46) && begins(8, 0x57, 0x45, 0x42, 0x50)) return 'webp';
  const head = new TextDecoder().decode(bytes.subarray(0, 1024));
  return /^\uFEFF?\s*(<\?xml[^>]*>\s*)?(<!--[\s\S]*?-->\s*|<!DOCTYPE[^>]*>\s*)*<svg[\s>]/i.test(head)
    ? 'svg'
    : null;
}
export function pictureType(name: string): string {
  return PICTURE_TYPES[name.slice(name.lastIndexOf('.') + 1) as PictureKind];
}

/** Names of the pictures that a project uses, each once. Linear in the assets. */
export function picturesOf(project: Project): string[] {
  return [...new Set(project.assets.flatMap((a) => (a.backdrop ? [a.backdrop.picture] : [])))];
}

/** A picture laid over a plan as large as fits it, with its own proportions. `pixels`: width and height of the picture. */
export function fittedBackdrop(picture: string, pixels: Vec2, plan: Vec2): Backdrop {
  const scale = Math.min(plan[0] / pixels[0], plan[1] / pixels[1]);
  return { picture, at: [0, 0], size: [centimetres(pixels[0] * scale), centimetres(pixels[1] * scale)] };
}

/**
 * A backdrop scaled so that two points of the plan come to lie so many metres apart on the picture; the first stays where
 * it is. Null where the points are one, or the picture would become too small or too large.
 */
export function scaledBackdrop(b: Backdrop, from: Vec2, to: Vec2, metres: number): Backdrop | null {
  const now = Math.hypot(to[0] - from[0], to[1] - from[1]);
  const factor = metres / now;
  if (!(now > 0) || !(factor > 0) || !Number.isFinite(factor)) return null;
  const size: Vec2 = [centimetres(b.size[0] * factor), centimetres(b.size[1] * factor)];
  if (size.some((side) => side <= 0 || side > MOST_METRES)) return null;
  const at = [0, 1].map((i) => centimetres(from[i] + (b.at[i] - from[i]) * factor)) as Vec2;
  return { ...b, at, size };
}
function centimetres(n: number): number {
  return Math.round(n * 100) / 100 || 0;
}
