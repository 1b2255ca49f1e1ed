import { ofPerson } from './signed.js';

const KEY = 'oquel.window';
const AUTHOR = 'oquel.author';

/** This window among all windows of the browser; `isLive` tells of another one whether it is still there. */
export interface ThisWindow {
  id: string;
  isLive: (other: string) => boolean;
}

/**
 * Names this window, by the same name after a reload. The name is held as a lock as long as the window lives, so that a
 * copy of a tab gets another name, and what a window that is gone has left is told from what a living one will send.
 */
export async function thisWindow(): Promise<ThisWindow> {
  const id = await (naming ??= name());
  const live = await liveWindows();
  return { id, isLive: (other) => live.has(other) };
}
let naming: Promise<string> | null = null;
async function name(): Promise<string> {
  const before = sessionStorage.getItem(KEY);
  const id = before !== null && (await hold(before)) ? before : crypto.randomUUID();
  if (id !== before) await hold(id);
  sessionStorage.setItem(KEY, id);
  return id;
}
/** Takes a lock for as long as the window lives; false where somebody has it. */
function hold(id: string): Promise<boolean> {
  return new Promise((resolve) => {
    void navigator.locks.request(lockOf(id), { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      return lock === null ? undefined : new Promise<void>(() => undefined);
    });
  });
}
/** Windows of this browser that live now, by their names. */
export async function liveWindows(): Promise<Set<string>> {
  const { held = [] } = await navigator.locks.query();
  const names = held.flatMap(({ name }) => (name?.startsWith(`${KEY}.`) ? [name.slice(KEY.length + 1)] : []));
  return new Set(names);
}
const lockOf = (id: string): string => `${KEY}.${id}`;

/** This browser, whose edits are one's own: undo takes those. */
export function thisAuthor(): string {
  const known = localStorage.getItem(ofPerson(AUTHOR));
  if (known !== null) return known;
  const author = crypto.randomUUID();
  localStorage.setItem(ofPerson(AUTHOR), author);
  return author;
}
