import { OquelError } from '../util/oquel-error.js';

/** What there may be too many of. */
export type Amount =
  'instances' | 'events and actions' | 'bindings' | 'levels' | 'loops' | 'spawning' | 'edges';

const TEXTS: Record<Amount, (size: string, limit: string, chain: string) => string> = {
  instances: (size, limit, chain) =>
    `the project expands to ${size} instances, more than the ${limit} allowed; ` +
    `it multiplies along ${chain}; place fewer copies at one of these levels`,
  'events and actions': (size, limit, chain) =>
    `the project expands to ${size} events and actions, more than the ${limit} allowed; ` +
    `it multiplies along ${chain}; place fewer copies at one of these levels`,
  bindings: (size, limit, chain) =>
    `the project expands to ${size} bindings, more than the ${limit} allowed; ` +
    `it multiplies along ${chain}; place fewer copies at one of these levels`,
  levels: (size, limit, chain) =>
    `prefabs are nested ${size} levels deep, more than the ${limit} allowed, from ${chain} on`,
  loops: (_size, limit, chain) =>
    `more than ${limit} placements close a loop, such as ${chain}; take one of them out`,
  spawning: (_size, limit, chain) =>
    `what is spawned takes more than ${limit} steps to follow; spawn fewer different assets from ${chain}`,
  edges: (_size, limit, chain) =>
    `the bindings expand to more than ${limit} deliveries; ` +
    `narrow the selections of ${chain} by a match or to one owner`,
};

/** Thrown when a document would expand beyond what is allowed; `chain` is where: the nesting of assets, or bindings. */
export class ProjectTooLarge extends OquelError {
  override readonly name = 'ProjectTooLarge';
  readonly code = 'project-too-large';
  constructor(
    readonly what: Amount,
    readonly count: number,
    readonly limit: number,
    readonly chain: readonly string[],
  ) {
    const size = count >= 1e15 ? count.toExponential(1) : Math.round(count).toLocaleString('en-GB');
    super(TEXTS[what](size, limit.toLocaleString('en-GB'), chain.join(' > ')));
  }
}
