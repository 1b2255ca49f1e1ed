/** What a thing is on a plan: each has a mark of its own. `thing` is what none of the others fits. */
export const MARKS = [
  'thing',
  'area',
  'press',
  'handle',
  'timer',
  'hub',
  'spawner',
  'mover',
  'light',
  'sound',
  'text',
  'person',
  'start',
  'gauge',
  'switch',
] as const;
export type Mark = (typeof MARKS)[number];
