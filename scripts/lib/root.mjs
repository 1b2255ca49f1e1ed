import { fileURLToPath } from 'node:url';

/** The checkout. */
export const ROOT = fileURLToPath(new URL('../..', import.meta.url)).replace(/\/$/, '');
