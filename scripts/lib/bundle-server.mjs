import { join } from 'node:path';
import { ROOT } from './root.mjs';
import { Trouble } from './say.mjs';

const COMPILED = join(ROOT, 'apps/server/dist');
const FOLDER = 'dist/server';
/** The server's program: a few files instead of a thousand, so that it and its threads start in less than half the time. */
export const SERVER = `${FOLDER}/main.js`;

/** Threads begin with files of their own, which stand side by side in the bundle. */
const THREADS = { 'heavy.worker': 'worker/heavy.worker.js', 'judge.worker': 'plays/judge.worker.js' };
const THREAD_ADDRESS = /new URL\('[./\w]*\/(\w+\.worker\.js)', import\.meta\.url\)/g;

/** What reads files beside its own, and what others load only if it is there. */
const APART =
  /^(piscina|swagger-ui-dist|pg-native|pino-pretty|@nestjs\/(microservices|websockets)|@fastify\/)/;

/** Writes the compiled server with its packages as the files of `dist/server`. */
export async function bundleServer() {
  // It is installed only when this module has long been read.
  const { rolldown } = await import('rolldown');
  const entries = Object.entries({ main: 'main.js', ...THREADS });
  const bundle = await rolldown({
    input: Object.fromEntries(entries.map(([name, file]) => [name, join(COMPILED, file)])),
    platform: 'node',
    external: APART,
    plugins: [
      { name: 'threads', transform: (code, id) => (id.startsWith(COMPILED) ? sideBySide(code) : null) },
    ],
  });
  await bundle.write({
    dir: join(ROOT, FOLDER),
    format: 'esm',
    // The description of the API and the log name things by their classes.
    keepNames: true,
    chunkFileNames: '[name]-[hash].js',
    cleanDir: true,
  });
  await bundle.close();
}
function sideBySide(code) {
  return code.replace(THREAD_ADDRESS, (_, file) => {
    if (!(file.replace(/\.js$/, '') in THREADS))
      throw new Trouble(
        `The server's bundle has no ${file}.`,
        'Name that thread in scripts/lib/bundle-server.mjs.',
      );
    return `new URL('./${file}', import.meta.url)`;
  });
}
