import { CORRECTNESS } from './rule-examples/correctness.js';
import { DELIVERY } from './rule-examples/delivery.js';
import { LISTENERS } from './rule-examples/listeners.js';
import { SHAPE } from './rule-examples/shape.js';
import { TARGETS } from './rule-examples/targets.js';
import { WAIVERS } from './rule-examples/waivers.js';
import type { RuleExample } from './rule-examples/example.js';

export { COMMON } from './rule-examples/example.js';

/** An example for each rule, as lines. A test reads each, and audits it. */
export const RULE_EXAMPLES: Readonly<Record<string, RuleExample>> = {
  ...CORRECTNESS,
  ...DELIVERY,
  ...LISTENERS,
  ...SHAPE,
  ...TARGETS,
  ...WAIVERS,
};
