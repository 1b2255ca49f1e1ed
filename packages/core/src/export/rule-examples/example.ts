import type { Project } from '../../project/types.js';

/** A small project on which a rule reports something, and one on which it almost does. */
export interface RuleExample {
  fires: string;
  almost: string;
  /** Why the second one is in order. */
  but: string;
  /** What lines do not say: a policy, waivers. In the second one `almostBeside` counts, where it is there. */
  beside?: Partial<Project>;
  almostBeside?: Partial<Project>;
}

/** What stands in many of the examples, and is not said there again. */
export const COMMON = `prefab Bell
event onRung when used

prefab Gate
property isOpen: bool = false
event onOpened when raised
action open: set isOpen to true; raise onOpened
action shut: set isOpen to false

prefab Lamp
property line: int = 0 key
action light
action dark`;

/** The scene of many examples. */
export const TWO = 'scene quay\nplace bell-1 of Bell\nplace gate-1 of Gate';
