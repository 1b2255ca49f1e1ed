import type { Rule } from '../rule.js';
import { danglingSender } from './dangling-sender.js';
import { danglingTarget } from './dangling-target.js';
import { longChain } from './long-chain.js';
import { orphanListener } from './orphan-listener.js';
import { relayCycle } from './relay-cycle.js';
import { unheardEvent } from './unheard-event.js';
import { idleWaiver, staleWaiver } from '../waivers.js';
import { wideFanOut } from './wide-fan-out.js';

/** Every rule, by name. A rule that is not listed here does not run. */
export const RULES: readonly Rule[] = [
  danglingSender,
  danglingTarget,
  longChain,
  orphanListener,
  relayCycle,
  unheardEvent,
  wideFanOut,
];

/** The rules, and those about waivers, which are judged after them. */
export const ALL_RULES: readonly Rule[] = [...RULES, idleWaiver, staleWaiver];
