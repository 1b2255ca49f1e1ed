import { TWO, type RuleExample } from './example.js';

/** Examples of the rules on correctness. */
export const CORRECTNESS: Readonly<Record<string, RuleExample>> = {
  'broadcast-spill': {
    fires: `scene quay
place bell-1 of Bell
place lamp-1 of Lamp with (line = 1)
place lamp-2 of Lamp with (line = 2)
when bell-1.onRung do every Lamp.light`,
    almost: `scene quay
place bell-1 of Bell
place lamp-1 of Lamp with (line = 1)
place lamp-2 of Lamp with (line = 2)
when bell-1.onRung do every Lamp [line = 1].light`,
    but: 'the key narrows it',
  },
  'covers-entry': {
    fires: `scene quay
place ramp of Ramp at 3, 0 entry
place mat-1 of Mat at 0, 0
place gate-1 of Gate
when mat-1.onStepped do gate-1.open

prefab Ramp

prefab Mat area circle 3
event onStepped when entered`,
    almost: `scene quay
place ramp of Ramp at 4, 0 entry
place mat-1 of Mat at 0, 0
place gate-1 of Gate
when mat-1.onStepped do gate-1.open

prefab Ramp

prefab Mat area circle 3
event onStepped when entered`,
    but: 'the entry is a metre beside the area',
  },
  'default-key': {
    fires: `scene quay
place bell-1 of Bell
place lamp-1 of Lamp
place lamp-2 of Lamp
place lamp-3 of Lamp with (line = 1)
when bell-1.onRung do every Lamp [line = 1].light`,
    almost: `scene quay
place bell-1 of Bell
place lamp-1 of Lamp
place lamp-3 of Lamp with (line = 1)
when bell-1.onRung do every Lamp [line = 1].light`,
    but: 'a single copy has the default key for itself',
  },
  'duplicate-binding': {
    fires: `${TWO}
when bell-1.onRung do gate-1.open
when bell-1.onRung do gate-1.open`,
    almost: `${TWO}
when bell-1.onRung do gate-1.open
when bell-1.onRung do gate-1.open after 2s`,
    but: 'they act at different times',
  },
  'first-of-many': {
    fires: `scene quay
place bell-1 of Bell
place lamp-1 of Lamp
place lamp-2 of Lamp
when bell-1.onRung do every Lamp [first only].light`,
    almost: `scene quay
place bell-1 of Bell
place lamp-1 of Lamp
when bell-1.onRung do every Lamp [first only].light`,
    but: 'there is one to choose from',
  },
  'leaky-binding': {
    fires: `scene quay
place bell-1 of Bell
place boat-1 of Boat

prefab Boat
action sink: destroy
action sway
when quay:bell-1.onRung do .sway in code releases never`,
    almost: `scene quay
place bell-1 of Bell
place boat-1 of Boat

prefab Boat
action sink: destroy
action sway
when quay:bell-1.onRung do .sway in code releases own`,
    but: 'it is released when the boat is gone',
  },
  'name-style': {
    fires: `channel Fog

scene quay`,
    beside: { policy: { names: { channel: '^[a-z]' } } },
    almost: `channel fog

scene quay`,
    but: 'the name fits the pattern',
  },
  'never-true': {
    fires: `scene quay
place mast-1 of Mast
place lamp-1 of Lamp
when mast-1.onGust do lamp-1.light if $speed > 12 and $speed < 12

prefab Mast
event onGust(speed: float) from code`,
    almost: `scene quay
place mast-1 of Mast
place lamp-1 of Lamp
when mast-1.onGust do lamp-1.light if $speed > 12 and $speed < 13

prefab Mast
event onGust(speed: float) from code`,
    but: 'there are numbers between',
  },
  'no-activation': {
    fires: `scene quay
place hatch-1 of Hatch
place lamp-1 of Lamp
when hatch-1.onUsed do lamp-1.light

prefab Hatch
event onUsed when used by #crew`,
    almost: `scene quay
place hatch-1 of Hatch
place lamp-1 of Lamp
place mate-1 of Mate
when hatch-1.onUsed do lamp-1.light

prefab Hatch
event onUsed when used by #crew

prefab Mate #crew`,
    but: 'somebody has the tag',
  },
  'opposing-actions': {
    fires: `${TWO}
when bell-1.onRung do gate-1.open
when bell-1.onRung do gate-1.shut`,
    almost: `${TWO}
when bell-1.onRung do gate-1.open
when bell-1.onRung do gate-1.shut after 5s`,
    but: 'one comes later',
  },
  'over-release': {
    fires: `channel fog

scene quay
place lamp-1 of Lamp
when #fog do lamp-1.light in code releases all
when #fog do lamp-1.dark after 60s`,
    almost: `channel fog

scene quay
place lamp-1 of Lamp
when #fog do lamp-1.light in code releases own
when #fog do lamp-1.dark after 60s`,
    but: 'it releases itself alone',
  },
  'pause-deaf': {
    fires: `scene quay runs in pause
event onHeld when used in pause
place lamp-1 of Lamp
when .onHeld do lamp-1.light`,
    almost: `scene quay runs in pause
event onHeld when used in pause
action show
when .onHeld do .show`,
    but: 'the receiver runs during a pause, too',
  },
  'payload-mismatch': {
    fires: `scene quay
place bell-1 of Bell
place crane-1 of Crane
when bell-1.onRung do crane-1.lift(by = "much")

prefab Crane
action lift(by: int)`,
    almost: `scene quay
place bell-1 of Bell
place crane-1 of Crane
when bell-1.onRung do crane-1.lift(by = 3)

prefab Crane
action lift(by: int)`,
    but: 'it is a whole number',
  },
  'shared-key': {
    fires: `scene quay
place berth-1 of Berth with (number = 5)
place berth-2 of Berth with (number = 5)

prefab Berth
property number: int = 0 unique`,
    almost: `scene quay
place berth-1 of Berth with (number = 5)

scene dock
place berth-1 of Berth with (number = 5)

prefab Berth
property number: int = 0 unique`,
    but: 'the two scenes are never loaded together',
  },
  'spawn-gap': {
    fires: `scene quay
action launch: spawn Boat
place boat-1 of Boat
place lamp-1 of Lamp
when boat-1.onLanded do lamp-1.light

prefab Boat
event onLanded when used`,
    almost: `scene quay
action launch: spawn Boat
place boat-1 of Boat
place lamp-1 of Lamp
when boat-1.onLanded do lamp-1.light
when ~Boat.onLanded do lamp-1.light

prefab Boat
event onLanded when used`,
    but: 'spawned ones are wired, too',
  },
  'start-race': {
    fires: `channel fog

scene quay
place mast-1 of Mast
place lamp-1 of Light
when mast-1.onStart do #fog

prefab Mast
event onStart when started

prefab Light
action light
when #fog do .light in code bound at start`,
    almost: `channel fog

scene quay
place mast-1 of Mast
place lamp-1 of Light
when mast-1.onStart do #fog

prefab Mast
event onStart when started

prefab Light
action light
when #fog do .light`,
    but: 'the binding is active from the load on',
  },
  'unpaired-area': {
    fires: `scene quay
place mat-1 of Mat
place gate-1 of Gate
when mat-1.onStepped do gate-1.open

prefab Mat area circle 3
event onStepped when entered
event onLeft when left`,
    almost: `scene quay
place mat-1 of Mat
place gate-1 of Gate
when mat-1.onStepped do gate-1.open
when mat-1.onLeft do gate-1.shut

prefab Mat area circle 3
event onStepped when entered
event onLeft when left`,
    but: 'leaving is bound, too',
  },
};
