/** For tools: rehearsals of Oquel, run by the runtime. A game does without. */
export { LiveRehearsal, rehearse } from './rehearse.js';
export type { Expectation, Rehearsal, Step, TraceLine } from './script.js';
