import type { WiringProject } from './format.js';
import { under } from './instance.js';
import { maySend } from './peers.js';
import type { Delivery, Raise } from './queued.js';
import type { LossReason, RefusalReason } from './records.js';

/** What reasons are read from: the state of play. */
export interface Play {
  readonly wiring: WiringProject;
  readonly assetAt: ReadonlyMap<string, number>;
  readonly paused: boolean;
  isLoaded(scene: string): boolean;
}

/** Why a raise would be refused now; `by`: the number of its peer. */
export function refusal(play: Play, { instance, event, special }: Raise, by: number): RefusalReason | null {
  const decl = instance.table.decl.events[event];
  if (!instance.scene.loaded) return 'unloaded';
  if (instance.gone && !special?.stood) return 'gone';
  if (instance.isAsleep) return 'asleep';
  if (decl.limit !== undefined && instance.counts[event] >= decl.limit) return 'limit';
  if (decl.activators && !admits(play, decl.activators, special?.activator)) return 'filtered';
  if (play.wiring.peers.length > 0 && !maySend(decl, by, instance.peersOf)) return 'barred';
  return play.paused && decl.raisedInPause !== true ? 'paused' : null;
}
function admits({ wiring, assetAt }: Play, list: readonly string[], activator: string | undefined): boolean {
  if (activator === undefined) return false;
  const tags = wiring.assets[assetAt.get(activator) ?? -1]?.tags ?? [];
  return list.some(
    (entry) => entry === activator || (entry.startsWith('#') && tags.includes(entry.slice(1))),
  );
}

/** Why a delivery would be lost now. */
export function loss(play: Play, { instance, bound, action, audience }: Delivery): LossReason | null {
  const { sceneNamed } = bound;
  if (sceneNamed !== null && !play.isLoaded(sceneNamed)) {
    if (play.wiring.scenes.some((s) => s.scene === sceneNamed)) return 'unloaded';
  }
  if (!instance) return 'dangling';
  const { decl } = instance.table;
  if (!instance.scene.loaded) return 'unloaded';
  if (instance.gone) return 'gone';
  if (decl.actions[action]?.whileAsleep !== true && instance.isAsleep) return 'asleep';
  if (play.paused && decl.runsInPause !== true) return 'paused';
  if (audience) {
    const is = decl.onAuthority ? audience.includes(instance.peersOf.authority) : audience.length > 0;
    if (!is) return 'nobody';
  }
  return action < 0 ? 'dangling' : null;
}

/** Where a delivery was bound for; what did not resolve stands as it is written, joined to its owner's address. */
export function whereTo({ instance, bound }: Delivery): string {
  if (instance) return instance.address;
  const { decl, owner, row } = bound;
  const { to } = decl;
  if ('every' in to) return `every ${to.every}`;
  if (!('at' in to)) return '';
  const { receiver } = owner.scene.file.bindings;
  if (receiver[row] >= 0) return owner.scene.addressOf(receiver[row]);
  if (receiver[row] <= -2) return owner.scene.file.others[-2 - receiver[row]];
  if (to.at.includes(':')) return to.at;
  return to.at === '.' ? owner.address : under(owner.address, to.at);
}
