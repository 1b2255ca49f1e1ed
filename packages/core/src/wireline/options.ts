/** What may follow the ends of a wire line. */
export const OPTIONS = [
  'if',
  'once',
  'at most',
  'after',
  'in code',
  'by hand',
  'bound at start',
  'bound at load',
  'releases own',
  'releases all',
  'releases never',
  'on',
  'off',
  'named',
  'note',
] as const;
