/** Names that stand without quotes in a wire line. */
const PLAIN_NAME = /^[A-Za-z_][A-Za-z0-9_-]*$/;
const PLAIN_PATH = /^[A-Za-z0-9_~:/.-]*[A-Za-z0-9_~:/-]$/;

export function printName(name: string): string {
  return PLAIN_NAME.test(name) ? name : JSON.stringify(name);
}

/** The path with the dot before what follows: `mast-2.`, and for the owner itself only `.`. */
export function printPathDot(path: string): string {
  if (path === '.') return '.';
  return PLAIN_PATH.test(path) || /^[A-Za-z_][A-Za-z0-9_-]*:\.$/.test(path)
    ? `${path}.`
    : `${JSON.stringify(path)}.`;
}
