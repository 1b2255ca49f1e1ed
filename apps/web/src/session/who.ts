import { signedHere } from './signed.js';

const KEY = 'oquel.who';

/** The name under which this browser's edits stand in the history: the account's, where people sign in. */
export function whoIsIt(): string {
  return signedHere().account?.name ?? localStorage.getItem(KEY) ?? 'somebody';
}
export function iAm(name: string): void {
  localStorage.setItem(KEY, name.trim().slice(0, 100) || 'somebody');
}
