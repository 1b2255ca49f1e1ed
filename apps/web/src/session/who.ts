const KEY = 'oquel.who';

/** The name under which this browser's edits stand in the history. */
export function whoIsIt(): string {
  return localStorage.getItem(KEY) ?? 'somebody';
}
export function iAm(name: string): void {
  localStorage.setItem(KEY, name.trim().slice(0, 100) || 'somebody');
}
