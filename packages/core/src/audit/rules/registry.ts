import type { Rule } from '../rule.js';
import { idleWaiver, staleWaiver } from '../waivers.js';
import { asleepReceiver } from './asleep-receiver.js';
import { asleepSender } from './asleep-sender.js';
import { authorityGap } from './authority-gap.js';
import { barredRaise } from './barred-raise.js';
import { broadcastSpill } from './broadcast-spill.js';
import { coversEntry } from './covers-entry.js';
import { danglingEffect } from './dangling-effect.js';
import { danglingKey } from './dangling-key.js';
import { danglingName } from './dangling-name.js';
import { danglingSender } from './dangling-sender.js';
import { danglingTarget } from './dangling-target.js';
import { deadWiring } from './dead-wiring.js';
import { defaultKey } from './default-key.js';
import { duplicateBinding } from './duplicate-binding.js';
import { emptyAudience } from './empty-audience.js';
import { emptySelection } from './empty-selection.js';
import { firstOfMany } from './first-of-many.js';
import { largeReach } from './large-reach.js';
import { leakyBinding } from './leaky-binding.js';
import { longChain } from './long-chain.js';
import { nameStyle } from './name-style.js';
import { nestingLoop } from './nesting-loop.js';
import { neverRaised } from './never-raised.js';
import { neverTrue } from './never-true.js';
import { noActivation } from './no-activation.js';
import { opposingActions } from './opposing-actions.js';
import { orphanListener } from './orphan-listener.js';
import { overRelease } from './over-release.js';
import { pauseDeaf } from './pause-deaf.js';
import { payloadMismatch } from './payload-mismatch.js';
import { prefabTangle } from './prefab-tangle.js';
import { reachesOut } from './reaches-out.js';
import { relayCycle } from './relay-cycle.js';
import { sharedKey } from './shared-key.js';
import { spawnGap } from './spawn-gap.js';
import { startRace } from './start-race.js';
import { unheardChannel } from './unheard-channel.js';
import { unheardEvent } from './unheard-event.js';
import { unhandledValue } from './unhandled-value.js';
import { unknownAsset } from './unknown-asset.js';
import { unloadedTarget } from './unloaded-target.js';
import { unpairedArea } from './unpaired-area.js';
import { unreliableState } from './unreliable-state.js';
import { unusedChannel } from './unused-channel.js';
import { wideFanOut } from './wide-fan-out.js';

/** Every rule, by name. A rule that is not listed here does not run. */
export const RULES: readonly Rule[] = [
  asleepReceiver,
  asleepSender,
  authorityGap,
  barredRaise,
  broadcastSpill,
  coversEntry,
  danglingEffect,
  danglingKey,
  danglingName,
  danglingSender,
  danglingTarget,
  deadWiring,
  defaultKey,
  duplicateBinding,
  emptyAudience,
  emptySelection,
  firstOfMany,
  largeReach,
  leakyBinding,
  longChain,
  nameStyle,
  nestingLoop,
  neverRaised,
  neverTrue,
  noActivation,
  opposingActions,
  orphanListener,
  overRelease,
  pauseDeaf,
  payloadMismatch,
  prefabTangle,
  reachesOut,
  relayCycle,
  sharedKey,
  spawnGap,
  startRace,
  unheardChannel,
  unhandledValue,
  unheardEvent,
  unknownAsset,
  unloadedTarget,
  unpairedArea,
  unreliableState,
  unusedChannel,
  wideFanOut,
];

/** The rules, and those about waivers, which are judged after them. */
export const ALL_RULES: readonly Rule[] = [...RULES, idleWaiver, staleWaiver];
