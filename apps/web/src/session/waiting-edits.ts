import type { ChangeSet } from '@oquel/core';

/** An edit that the server does not have yet. */
export interface WaitingEdit {
  key: string;
  changeSet: ChangeSet;
}
interface Kept {
  /** The version that the server had when it last answered. */
  base: number;
  edits: WaitingEdit[];
}

/** Edits that wait, kept for this window over a reload; nothing is kept where the browser has no room. */
export function keepWaiting(project: string, base: number, edits: readonly WaitingEdit[]): void {
  try {
    if (edits.length === 0) sessionStorage.removeItem(keyOf(project));
    else sessionStorage.setItem(keyOf(project), JSON.stringify({ base, edits }));
  } catch {
    // The window asks before it is closed while edits wait.
  }
}
export function keptWaiting(project: string): Kept | null {
  try {
    const text = sessionStorage.getItem(keyOf(project));
    return text === null ? null : (JSON.parse(text) as Kept);
  } catch {
    return null;
  }
}
function keyOf(project: string): string {
  return `oquel.waiting.${project}`;
}
