import type { RuleExample } from './example.js';

/** Examples of the rules on delivery. */
export const DELIVERY: Readonly<Record<string, RuleExample>> = {
  'authority-gap': {
    fires: `peer host server
peer mate client

scene quay
event onTide when used raised by nobody
place lock-1 of Lock
when .onTide do lock-1.close

prefab Lock on authority
action close`,
    almost: `peer host server
peer mate client

scene quay
event onTide when used
place lock-1 of Lock
when .onTide do lock-1.close

prefab Lock on authority
action close`,
    but: 'the event reaches the authority',
  },
  'barred-raise': {
    fires: `peer host server

scene quay
event onTide when used raised by operator
place gate-1 of Gate
when .onTide do gate-1.open`,
    almost: `scene quay
event onTide when used raised by operator
place gate-1 of Gate
when .onTide do gate-1.open`,
    but: 'without peers nobody is kept from raising it',
  },
  'empty-audience': {
    fires: `peer host server

scene quay
event onTide when used received by others
place gate-1 of Gate
when .onTide do gate-1.open`,
    almost: `peer host server

scene quay
event onTide when used received by raiser
place gate-1 of Gate
when .onTide do gate-1.open`,
    but: 'whoever raises it is there',
  },
  'unreliable-state': {
    fires: `peer host server
peer mate client

scene quay
event onTide when used unreliable
place gate-1 of Gate
when .onTide do gate-1.open`,
    almost: `peer host server
peer mate client

scene quay
event onTide when used
place gate-1 of Gate
when .onTide do gate-1.open`,
    but: 'it is delivered reliably',
  },
};
