/** Words that stand out at the start of a line, and in what colour (ECMA-48). */
const WORDS: [pattern: RegExp, code: number][] = [
  [/^(error)(?= )/gm, 31],
  [/^(warning)(?= )/gm, 33],
  [/^(note)(?=[ :])/gm, 36],
  [/(gate STOPPED)/g, 31],
  [/(gate passed)/g, 32],
];

/** Whether colours are wanted: as NO_COLOR and FORCE_COLOR say, else on a terminal. */
export function wantsColour(env: NodeJS.ProcessEnv, isTerminal: boolean): boolean {
  const { NO_COLOR = '', FORCE_COLOR } = env;
  if (FORCE_COLOR !== undefined && FORCE_COLOR !== '') return FORCE_COLOR !== '0' && FORCE_COLOR !== 'false';
  return NO_COLOR === '' && env.TERM !== 'dumb' && isTerminal;
}
export function coloured(text: string): string {
  return WORDS.reduce((all, [pattern, code]) => all.replace(pattern, `\x1b[${code}m$1\x1b[0m`), text);
}
