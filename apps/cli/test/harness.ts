import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { main } from '../src/main.js';

export const DEMO = fileURLToPath(new URL('../../../demo/storm-over-veyra.json', import.meta.url));

/** Runs the command in this process: how it ends, and what it writes. */
export async function oquel(...args: string[]): Promise<{ code: number; out: string; err: string }> {
  let [out, err] = ['', ''];
  const code = await main(args, { out: (t) => (out += t), err: (t) => (err += t) });
  return { code, out, err };
}
/** Writes a file, a value as JSON; its path. */
export function written(folder: string, name: string, content: unknown): string {
  const path = join(folder, name);
  writeFileSync(path, typeof content === 'string' ? content : JSON.stringify(content));
  return path;
}
