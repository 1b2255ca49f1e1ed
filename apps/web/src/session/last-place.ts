/** Where each project was left: the view and what was chosen in it, in this browser. */
const KEY = 'oquel.place.';

export function leftAt(project: string, path: string): void {
  localStorage.setItem(KEY + project, path);
}
/** The address of a project, where it was left last. */
export function projectHref(project: string): string {
  const path = localStorage.getItem(KEY + project) ?? '';
  return path.startsWith(`/p/${project}/`) ? path : `/p/${project}/plan`;
}
