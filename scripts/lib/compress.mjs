import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';

/** Smaller files are sent as they are. */
const LEAST = 1024;
/** Higher ones take five times as long for a twentieth less. */
const QUALITY = 9;

/** Puts a compressed copy beside each text of a folder, so that the server compresses none of them at each visit. */
export function compressTexts(folder) {
  for (const name of readdirSync(folder)) {
    if (!/\.(js|css|svg)$/.test(name)) continue;
    const file = join(folder, name);
    const text = readFileSync(file);
    if (text.length < LEAST) continue;
    writeFileSync(`${file}.gz`, gzipSync(text, { level: 9 }));
    const params = { [constants.BROTLI_PARAM_QUALITY]: QUALITY };
    writeFileSync(`${file}.br`, brotliCompressSync(text, { params }));
  }
}
