import { BLOCKED, MISSING } from '../expand/resolve.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding, KeyExpr } from '../project/types.js';
import { isLiteral } from '../project/value.js';

/** What is wrong with the ends of a binding, as bits. A binding without any is resolved. */
export const Fault = {
  FromPlacement: 1,
  FromEvent: 2,
  FromChannel: 4,
  FromProperty: 8,
  ToPlacement: 16,
  ToAction: 32,
  ToAsset: 64,
  ToChannel: 128,
  ToProperty: 256,
  FromBlocked: 512,
  ToBlocked: 1024,
} as const;
export const FROM_FAULTS = 1 | 2 | 4 | 8 | 512;
export const TO_FAULTS = 16 | 32 | 64 | 128 | 256 | 1024;

/**
 * Judges both ends of a binding, given the assets that its paths lead to (or {@link MISSING} or {@link BLOCKED}).
 * An end that is read from a missing end is not blamed as well.
 */
export function judgeEnds(
  index: ProjectIndex,
  owner: AssetIndex,
  binding: Binding,
  sender: number,
  receiver: number,
): number {
  const { from, to } = binding;
  let faults = 0;
  // Whose properties a key on the `to` side reads: the sender's; the owner's when a channel is heard.
  let reader: AssetIndex | null = owner;
  if ('channel' in from) {
    if (!index.channelAt.has(from.channel)) faults |= Fault.FromChannel;
  } else {
    reader = sender >= 0 ? index.assets[sender] : null;
    if (sender === MISSING) faults |= Fault.FromPlacement;
    else if (sender === BLOCKED) faults |= Fault.FromBlocked;
    else if (!reader!.eventAt.has(from.event)) faults |= Fault.FromEvent;
  }
  let listener: AssetIndex | null = null;
  if ('channel' in to) {
    if (!index.channelAt.has(to.channel)) faults |= Fault.ToChannel;
    if (reader && lacks(reader, to.key)) faults |= Fault.ToProperty;
  } else if ('every' in to) {
    const at = index.assetAt.get(to.every);
    if (at === undefined) faults |= Fault.ToAsset;
    else {
      listener = index.assets[at];
      if (!listener.actionAt.has(to.action)) faults |= Fault.ToAction;
      if (to.match !== undefined && to.match !== 'all') {
        if (!listener.propertyAt.has(to.match.property)) faults |= Fault.ToProperty;
        if (reader && lacks(reader, to.match.equals)) faults |= Fault.ToProperty;
      }
    }
  } else if (receiver === MISSING) faults |= Fault.ToPlacement;
  else if (receiver === BLOCKED) faults |= Fault.ToBlocked;
  else {
    listener = index.assets[receiver];
    if (!listener.actionAt.has(to.action)) faults |= Fault.ToAction;
  }
  if ('channel' in from && listener && lacks(listener, from.key)) faults |= Fault.FromProperty;
  return faults;
}

function lacks(asset: AssetIndex, key: KeyExpr | undefined): boolean {
  return key !== undefined && !isLiteral(key) && !asset.propertyAt.has(key.property);
}
