import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

/** The game that is made from nothing, once by keyboard alone and once by pointer, with the names typed. */
export const GAME = fileURLToPath(new URL('./games/lock.json', import.meta.url));

export interface Made {
  assets: { id: string; placements?: { at?: unknown }[]; bindings?: { id?: string }[] }[];
}
export function kept(): Made {
  return JSON.parse(readFileSync(GAME, 'utf8')) as Made;
}
export const PROJECT_LINES = [
  'enum Side: left, right',
  'key table lines: bow, stern',
  'channel water(side: enum:Side)',
  'peer host server',
  'peer mate client',
];
