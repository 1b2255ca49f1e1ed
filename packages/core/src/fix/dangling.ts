import { reachableFrom, type Reachable } from '../edit/wiring.js';
import type { ChangeSet } from '../edit/change.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';
import { fixByDeclaring } from './declaring.js';
import { nearest } from '../project/nearest.js';
import { bindingOf, changeBinding, removeBinding, type ProposeFixes } from './proposal.js';

/** Nearest receivers, actions, assets or channels, those that offer what is wanted first; what is named is made; or removal. */
export const fixTarget: ProposeFixes = (index, finding) => {
  const found = bindingOf(index, finding);
  if (!found) return [];
  const { owner, binding } = found;
  const { to } = binding;
  const set = (next: Binding['to'], label: string): ChangeSet =>
    changeBinding(owner, { ...binding, to: next }, label);
  const fixes: ChangeSet[] = [];
  if ('channel' in to && finding.class === 'channel') {
    for (const channel of nearest(to.channel, index.channelAt.keys()))
      fixes.push(set({ ...to, channel }, `Publish to #${channel}`));
  } else if ('at' in to && finding.class === 'placement') {
    const able = reachableFrom(index, owner).filter((t) => t.asset.actionAt.has(to.action));
    for (const at of nearestPaths(to.at, able)) fixes.push(set({ ...to, at }, `Use ${at}`));
  } else if ('every' in to && finding.class === 'asset') {
    const able = index.assets.filter((a) => a.actionAt.has(to.action)).map((a) => a.decl.id);
    for (const every of nearest(to.every, able)) fixes.push(set({ ...to, every }, `Use every ${every}`));
  } else if (!('channel' in to) && finding.class === 'action') {
    const receiver = receiverAsset(index, owner, binding);
    for (const action of receiver ? nearest(to.action, receiver.actionAt.keys()) : []) {
      fixes.push(set({ ...to, action }, `Use the action ${action}`));
    }
  }
  return [...fixes, ...fixByDeclaring(index, finding), removeBinding(owner, binding)];
};

/** Nearest senders, events or channels, those that raise what is wanted first; what is named is made; or removal. */
export const fixSender: ProposeFixes = (index, finding) => {
  const found = bindingOf(index, finding);
  if (!found) return [];
  const { owner, binding } = found;
  const { from } = binding;
  const set = (next: Binding['from'], label: string): ChangeSet =>
    changeBinding(owner, { ...binding, from: next }, label);
  const fixes: ChangeSet[] = [];
  if ('channel' in from) {
    if (finding.class === 'channel') {
      for (const channel of nearest(from.channel, index.channelAt.keys())) {
        fixes.push(set({ ...from, channel }, `Listen to #${channel}`));
      }
    }
  } else if (finding.class === 'placement') {
    const able = reachableFrom(index, owner).filter((t) => t.asset.eventAt.has(from.event));
    for (const at of nearestPaths(from.at, able)) fixes.push(set({ ...from, at }, `Listen to ${at}`));
  } else if (finding.class === 'event') {
    const sender = reachableFrom(index, owner).find((t) => t.path === from.at)?.asset;
    for (const event of sender ? nearest(from.event, sender.eventAt.keys()) : []) {
      fixes.push(set({ ...from, event }, `Listen for ${event}`));
    }
  }
  return [...fixes, ...fixByDeclaring(index, finding), removeBinding(owner, binding)];
};

/** The nearest by name; without one that is near, the first few that could do it. */
function nearestPaths(wanted: string, able: readonly Reachable[]): string[] {
  const paths = able.map((t) => t.path);
  const near = nearest(wanted, paths);
  return near.length > 0 ? near : paths.slice(0, 2);
}
function receiverAsset(index: ProjectIndex, owner: AssetIndex, { to }: Binding): AssetIndex | undefined {
  if ('every' in to) return index.assets[index.assetAt.get(to.every) ?? -1];
  return 'at' in to ? reachableFrom(index, owner).find((t) => t.path === to.at)?.asset : undefined;
}
