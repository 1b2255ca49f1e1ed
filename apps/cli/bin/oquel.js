#!/usr/bin/env node
import { existsSync } from 'node:fs';

const built = new URL('../dist/main.js', import.meta.url);
if (!existsSync(built)) {
  process.stderr.write('oquel is not built yet: run `npm run build` in the checkout once.\n');
  process.exit(2);
}
// Whoever reads may stop early, as `head` does; that is no error.
process.stdout.on('error', (error) => process.exit(error.code === 'EPIPE' ? 0 : 2));
// Nobody foresaw it: neither the gate's 1 nor wrong use.
process.on('uncaughtException', (error) => {
  process.stderr.write(`oquel failed: ${error.message}\n`);
  process.exit(70);
});
const { main } = await import(built.href);
process.exitCode = await main(process.argv.slice(2));
