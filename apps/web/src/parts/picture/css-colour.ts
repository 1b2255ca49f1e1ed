/** A colour of the theme that is on, by the name of its variable. */
export function cssColour(name: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim();
}
