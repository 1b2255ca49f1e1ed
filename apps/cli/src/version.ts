import { createRequire } from 'node:module';

/** The version of this package. */
export const { version: VERSION } = createRequire(import.meta.url)('../package.json') as { version: string };
