import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { canonicalJson } from '../project/canonical.js';
import type { Subject } from './finding.js';

/** First 16 hex digits of SHA-256 over rule, class and the canonical subject, a line each. */
export function fingerprint(rule: string, cls: string | undefined, subject: Subject): string {
  const text = `${rule}\n${cls ?? ''}\n${canonicalJson(subject)}`;
  return bytesToHex(sha256(utf8ToBytes(text)).subarray(0, 8));
}
