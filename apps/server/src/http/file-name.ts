/** A name without what a header cannot hold: control characters and halves of surrogate pairs. */
export function fileName(name: string): string {
  const sayable = (c: string): boolean => c >= ' ' && !(c.length === 1 && c >= '\ud800' && c <= '\udfff');
  return [...name].filter(sayable).join('') || 'project';
}
