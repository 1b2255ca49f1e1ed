import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import openapiTS, { astToString } from 'openapi-typescript';
import { ROOT } from './lib/root.mjs';
import { runScript, say } from './lib/say.mjs';

/** Writes the web client's types from the server's own description of its API. Build first. */
await runScript(async () => {
  await import(join(ROOT, 'node_modules/reflect-metadata/Reflect.js'));
  const { createApp } = await import(join(ROOT, 'apps/server/dist/create-app.js'));
  const { describeApi } = await import(join(ROOT, 'apps/server/dist/openapi.js'));
  const { readConfig } = await import(join(ROOT, 'apps/server/dist/config.js'));
  const app = await createApp(readConfig({ DATABASE_URL: 'postgres://nowhere' }));
  const ast = await openapiTS(describeApi(app));
  const head = '// Made by `npm run api-types` from the server; not written by hand.\n';
  await writeFile(join(ROOT, 'apps/web/src/api/schema.d.ts'), head + astToString(ast));
  say('apps/web/src/api/schema.d.ts is written.');
  process.exit(0);
});
