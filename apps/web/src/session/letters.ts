const KEY = 'oquel.letters';

/** Whether keys of a single letter do something; people who dictate or press keys by accident switch them off. */
export function lettersOn(): boolean {
  return localStorage.getItem(KEY) !== 'off';
}
export function setLetters(on: boolean): void {
  localStorage.setItem(KEY, on ? 'on' : 'off');
}
