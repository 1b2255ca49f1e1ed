import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import openapiTS, { astToString } from 'openapi-typescript';
import { ROOT } from './lib/root.mjs';
import { runScript, say } from './lib/say.mjs';

/** Writes the web client's types from the server's own description of its API. Build first. */
await runScript(async () => {
  await import(join(ROOT, 'node_modules/reflect-metadata/Reflect.js'));
  const { createApp } = await import(join(ROOT, 'apps/server/dist/create-app.js'));
  const { describeApi } = await import(join(ROOT, 'apps/server/dist/openapi/describe-api.js'));
  const { FORMATS } = await import(join(ROOT, 'apps/server/dist/openapi/formats.js'));
  const { readConfig } = await import(join(ROOT, 'apps/server/dist/config.js'));
  const app = await createApp(readConfig({ DATABASE_URL: 'postgres://nowhere' }));
  const api = describeApi(app);
  // The core has these types, and they are its own to know.
  for (const name of Object.keys(FORMATS))
    api.components.schemas[name] = { type: 'object', additionalProperties: true };
  // Every problem is read alike.
  for (const methods of Object.values(api.paths))
    for (const { responses } of Object.values(methods))
      for (const status of Object.keys(responses)) if (status >= '400') delete responses[status];
  const ast = await openapiTS(api);
  const head = '// Made by `npm run api-types` from the server; not written by hand.\n';
  await writeFile(join(ROOT, 'apps/web/src/api/schema.d.ts'), head + astToString(ast));
  say('apps/web/src/api/schema.d.ts is written.');
  process.exit(0);
});
