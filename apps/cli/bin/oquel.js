#!/usr/bin/env node
import { existsSync } from 'node:fs';

const built = new URL('../dist/run.js', import.meta.url);
if (!existsSync(built)) {
  process.stderr.write('oquel is not built yet: run `npm run build` in the checkout once.\n');
  process.exit(2);
}
const { run } = await import(built.href);
await run();
