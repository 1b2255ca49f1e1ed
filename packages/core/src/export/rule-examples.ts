import type { Project } from '../project/types.js';

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

const TWO = 'scene quay\nplace bell-1 of Bell\nplace gate-1 of Gate';

/** An example for each rule, as lines. A test reads each, and audits it. */
export const RULE_EXAMPLES: Readonly<Record<string, RuleExample>> = {
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
  'idle-waiver': {
    fires: 'scene quay',
    beside: { waivers: [{ fingerprint: 'ffffffffffffffff', reason: 'was so once', by: 'mira' }] },
    almost: 'scene quay',
    almostBeside: {},
    but: 'there is no waiver',
  },
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
  'name-style': {
    fires: `channel Fog

scene quay`,
    beside: { policy: { names: { channel: '^[a-z]' } } },
    almost: `channel fog

scene quay`,
    but: 'the name fits the pattern',
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
  'stale-waiver': {
    fires: 'scene quay',
    beside: {
      waivers: [{ fingerprint: 'ffffffffffffffff', reason: 'for the fair', by: 'mira', until: '2026-01-01' }],
    },
    almost: 'scene quay',
    almostBeside: {
      waivers: [{ fingerprint: 'ffffffffffffffff', reason: 'for the fair', by: 'mira', until: '9999-01-01' }],
    },
    but: 'its day has not come',
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
  'unused-channel': {
    fires: `channel fog

scene quay`,
    almost: `channel fog

scene quay
place bell-1 of Bell
when bell-1.onRung do #fog`,
    but: 'somebody publishes to it (and another rule says that nobody listens)',
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
