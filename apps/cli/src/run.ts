import { EXIT } from './exit-codes.js';
import { main } from './main.js';

/** Runs the command line of this process, and sets how it ends. */
export async function run(): Promise<void> {
  // Whoever reads may stop early, as `head` does; that is no error.
  process.stdout.on('error', (error: NodeJS.ErrnoException) =>
    process.exit(error.code === 'EPIPE' ? EXIT.passed : EXIT.unusable),
  );
  // Nobody foresaw it: neither the gate's 1 nor wrong use.
  process.on('uncaughtException', (error) => {
    process.stderr.write(`oquel failed: ${error.message}\n`);
    process.exit(EXIT.unforeseen);
  });
  process.exitCode = await main(process.argv.slice(2));
}
