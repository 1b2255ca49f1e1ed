import { createRequire } from 'node:module';

/** Put there by the bundle, beside which no package lies. */
declare const OQUEL_VERSION: string | undefined;

/** The version of this package. */
export const VERSION: string =
  typeof OQUEL_VERSION === 'string'
    ? OQUEL_VERSION
    : (createRequire(import.meta.url)('../package.json') as { version: string }).version;
