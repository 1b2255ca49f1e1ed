import { TWO, type RuleExample } from './example.js';

/** Examples of the rules on shape. */
export const SHAPE: Readonly<Record<string, RuleExample>> = {
  'large-reach': {
    beside: { policy: { maxReach: 1 } },
    fires: `${TWO}
place lamp-1 of Lamp
when bell-1.onRung do gate-1.open
when gate-1.onOpened do lamp-1.light`,
    almost: `${TWO}
when bell-1.onRung do gate-1.open`,
    but: 'one action is as much as the policy allows',
  },
  'long-chain': {
    beside: { policy: { maxChain: 1 } },
    fires: `${TWO}
place lamp-1 of Lamp
when bell-1.onRung do gate-1.open
when gate-1.onOpened do lamp-1.light`,
    almost: `${TWO}
place lamp-1 of Lamp
when bell-1.onRung do gate-1.open
when bell-1.onRung do lamp-1.light`,
    but: 'both are one hop away',
  },
  'prefab-tangle': {
    beside: { policy: { maxTangle: 1 } },
    fires: `scene quay
place left-1 of Left
place right-1 of Right
when left-1.onPushed do right-1.push
when right-1.onPushed do left-1.push after 1s once

prefab Left
event onPushed when used
action push

prefab Right
event onPushed when used
action push`,
    almost: `scene quay
place left-1 of Left
place right-1 of Right
when left-1.onPushed do right-1.push
when left-1.onPulled do right-1.push

prefab Left
event onPushed when used
event onPulled when used
action push

prefab Right
event onPushed when used
action push`,
    but: 'all lead in one direction',
  },
  'relay-cycle': {
    fires: `scene quay
place gate-1 of Gate
place gate-2 of Gate
when gate-1.onOpened do gate-2.open
when gate-2.onOpened do gate-1.open`,
    almost: `scene quay
place gate-1 of Gate
place gate-2 of Gate
when gate-1.onOpened do gate-2.open
when gate-2.onOpened do gate-1.shut`,
    but: 'shutting raises nothing',
  },
  'wide-fan-out': {
    beside: { policy: { maxFanOut: 1 } },
    fires: `${TWO}
place lamp-1 of Lamp
when bell-1.onRung do gate-1.open
when bell-1.onRung do lamp-1.light`,
    almost: `${TWO}
place lamp-1 of Lamp
when bell-1.onRung do gate-1.open
when gate-1.onOpened do lamp-1.light`,
    but: 'the bell reaches one action directly',
  },
};
