import { TWO, type RuleExample } from './example.js';

/** Examples of the rules on targets. */
export const TARGETS: Readonly<Record<string, RuleExample>> = {
  'asleep-receiver': {
    fires: `scene quay
place bell-1 of Bell
place lamp-1 of Lamp asleep
when bell-1.onRung do lamp-1.light`,
    almost: `scene quay
place bell-1 of Bell
place watch-1 of Watch asleep
when bell-1.onRung do watch-1.rouse
when bell-1.onRung do watch-1.look

prefab Watch
action rouse while asleep: wake
action look`,
    but: 'something wakes it',
  },
  'asleep-sender': {
    fires: `scene quay
place bell-1 of Bell asleep
place gate-1 of Gate
when bell-1.onRung do gate-1.open`,
    almost: `scene quay
place bell-1 of Bell
place gate-1 of Gate asleep
when gate-1.onOpened do bell-1.hum

prefab Bell
event onRung when used
action hum`,
    but: 'an event that only actions raise is not the sender’s own to raise',
  },
  'dangling-effect': {
    fires: `scene quay
place horn-1 of Horn

prefab Horn
action blow: raise onBlown`,
    almost: `scene quay
place horn-1 of Horn

prefab Horn
event onBlown when raised
action blow: raise onBlown`,
    but: 'the event is declared',
  },
  'dangling-key': {
    fires: `key table Texts: hello

scene quay
place sign-1 of Sign

prefab Sign
property text: key:Texts = "hello"
action change: set text to "farewell"`,
    almost: `key table Texts: hello, farewell

scene quay
place sign-1 of Sign

prefab Sign
property text: key:Texts = "hello"
action change: set text to "farewell"`,
    but: 'the table has the key',
  },
  'dangling-name': {
    fires: `scene quay
place lamp-1 of Lamp with (glow = 2)`,
    almost: `scene quay
place lamp-1 of Lamp with (line = 2)`,
    but: 'the property is there',
  },
  'dangling-sender': {
    fires: `${TWO}
when bell-9.onRung do gate-1.open`,
    almost: `${TWO}
when bell-9.onRung do gate-1.open off`,
    but: 'a binding that is off is not judged',
  },
  'dangling-target': {
    fires: `${TWO}
when bell-1.onRung do gate-9.open`,
    almost: `${TWO}
when bell-1.onRung do gate-1.open`,
    but: 'the receiver is there',
  },
  'empty-selection': {
    fires: `scene quay
place bell-1 of Bell
when bell-1.onRung do every Lamp.light`,
    almost: `scene quay
place bell-1 of Bell
place lamp-1 of Lamp
when bell-1.onRung do every Lamp.light`,
    but: 'there is a lamp',
  },
  'nesting-loop': {
    fires: `scene quay
place box-1 of Box

prefab Box
place box-2 of Box`,
    almost: `scene quay
place box-1 of Box

prefab Box
place lid-1 of Lid

prefab Lid`,
    but: 'it contains something else',
  },
  'reaches-out': {
    fires: `scene quay
place bell-1 of Bell
place boat-1 of Boat

prefab Boat
action sway
when quay:bell-1.onRung do .sway`,
    almost: `scene quay
place bell-1 of Bell
place boat-1 of Boat
when bell-1.onRung do boat-1.sway

prefab Boat
action sway`,
    but: 'the scene wires it, which knows both',
  },
  'unknown-asset': {
    fires: `scene quay
place buoy-1 of Buoy`,
    almost: `scene quay
place buoy-1 of Buoy

prefab Buoy`,
    but: 'the prefab is there',
  },
  'unloaded-target': {
    fires: `load set day: quay
load set night: dock

scene quay
place bell-1 of Bell
when bell-1.onRung do dock:gate-1.open

scene dock
place gate-1 of Gate`,
    almost: `load set day: quay, dock

scene quay
place bell-1 of Bell
when bell-1.onRung do dock:gate-1.open

scene dock
place gate-1 of Gate`,
    but: 'both scenes are loaded together',
  },
};
