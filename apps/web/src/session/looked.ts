const KEY = 'oquel.looked.';

/** Whether somebody looked at the audit of a project, in this browser. */
export function hasLooked(project: string): boolean {
  return localStorage.getItem(KEY + project) !== null;
}
export function lookedAt(project: string): void {
  localStorage.setItem(KEY + project, 'yes');
}
