import { randomBytes } from 'node:crypto';
import { sha256 } from '../sha256.js';

/** A secret that is shown once: 256 random bits, as text that may stand in addresses and headers. */
export function newSecret(): string {
  return randomBytes(32).toString('base64url');
}
/** How a secret is kept. It is random and long, so one round of SHA-256 is enough, and it can be looked up. */
export function hashOf(secret: string): string {
  return sha256([secret]);
}
