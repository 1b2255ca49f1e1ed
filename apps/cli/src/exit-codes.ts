/** How a command ends. */
export const EXIT = {
  passed: 0,
  stopped: 1,
  unusable: 2,
  /** As in sysexits.h. */
  unforeseen: 70,
} as const;

/** What each of them means, for the documentation. */
export const EXIT_WORDS: Record<(typeof EXIT)[keyof typeof EXIT], string> = {
  0: 'all is well',
  1: 'the gate stops it, a rehearsal fails, the files are not those of the project, a play did not go as wired: what the command checks does not hold',
  2: 'the command was used wrongly, or a file cannot be read or written; the message says which, where and what to do',
  70: 'oquel itself failed; `--debug` before the command shows where',
};
