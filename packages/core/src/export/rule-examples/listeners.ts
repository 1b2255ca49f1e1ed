import type { RuleExample } from './example.js';

/** Examples of the rules on listeners. */
export const LISTENERS: Readonly<Record<string, RuleExample>> = {
  'dead-wiring': {
    fires: `scene quay
place gate-1 of Gate
place lamp-1 of Lamp
when gate-1.onOpened do lamp-1.light`,
    almost: `scene quay
place bell-1 of Bell
place gate-1 of Gate
place lamp-1 of Lamp
when bell-1.onRung do gate-1.open
when gate-1.onOpened do lamp-1.light`,
    but: 'somebody can ring the bell',
  },
  'never-raised': {
    fires: `scene quay
place horn-1 of Horn
place lamp-1 of Lamp
when horn-1.onBlown do lamp-1.light

prefab Horn
event onBlown when raised
action blow`,
    almost: `scene quay
place horn-1 of Horn
place lamp-1 of Lamp
when horn-1.onBlown do lamp-1.light

prefab Horn
event onBlown when raised
action blow: raise onBlown`,
    but: 'an action raises it',
  },
  'orphan-listener': {
    fires: `scene quay
place boom-1 of Boom

prefab Boom
action rise expects a sender`,
    almost: `scene quay
place bell-1 of Bell
place boom-1 of Boom
when bell-1.onRung do boom-1.rise

prefab Boom
action rise expects a sender`,
    but: 'the bell triggers it',
  },
  'unhandled-value': {
    fires: `enum Side: left, right

scene quay
place lever-1 of Lever
place lamp-1 of Lamp
when lever-1.onPulled do lamp-1.light if $side = "left"

prefab Lever
event onPulled(side: enum:Side) from code`,
    almost: `enum Side: left, right

scene quay
place lever-1 of Lever
place lamp-1 of Lamp
when lever-1.onPulled do lamp-1.light if $side = "left"
when lever-1.onPulled do lamp-1.dark if $side = "right"

prefab Lever
event onPulled(side: enum:Side) from code`,
    but: 'each value is handled',
  },
  'unheard-channel': {
    fires: `channel fog

scene quay
place bell-1 of Bell
when bell-1.onRung do #fog`,
    almost: `channel fog

scene quay
place bell-1 of Bell
place lamp-1 of Lamp
when bell-1.onRung do #fog
when #fog do lamp-1.light`,
    but: 'the lamp listens',
  },
  'unheard-event': {
    fires: `scene quay
place bell-1 of Bell`,
    almost: `scene quay
place bell-1 of Bell
place lamp-1 of Lamp
when bell-1.onRung do lamp-1.light`,
    but: 'the lamp listens',
  },
  'unused-channel': {
    fires: `channel fog

scene quay`,
    almost: `channel fog

scene quay
place bell-1 of Bell
when bell-1.onRung do #fog`,
    but: 'somebody publishes to it (and another rule says that nobody listens)',
  },
};
