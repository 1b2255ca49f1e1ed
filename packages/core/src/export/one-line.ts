/**
 * A text as one line for a terminal or a log: control characters, line ends and what turns the direction of writing are
 * written as escapes, so that a name can neither begin a line of its own nor change what stands beside it.
 */
export function oneLine(text: string): string {
  return text.replace(UNSAYABLE, (c) => {
    const code = c.codePointAt(0)!;
    return code <= 0xff
      ? `\\x${code.toString(16).padStart(2, '0')}`
      : `\\u${code.toString(16).padStart(4, '0')}`;
  });
}
// eslint-disable-next-line no-control-regex -- they are what is looked for
const UNSAYABLE = /[\u0000-\u001f\u007f-\u009f\u061c\u200e\u200f\u2028-\u202e\u2066-\u2069]/g;
