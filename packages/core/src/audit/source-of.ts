import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { FromGame, Source } from '../project/types.js';
import { own } from '../util/own.js';
import type { Subject } from './finding.js';

/**
 * Where the game declares what a finding speaks of, as its manifest says: the event, action, property, thing, channel or
 * asset itself, or at least the asset that declares it; null for what is Oquel's own. Cost: a look into the lists that are indexed.
 */
export function sourceOf(index: ProjectIndex, subject: Subject): Source | null {
  const { project, channelAt } = index;
  if ('channel' in subject) return project.channels?.[channelAt.get(subject.channel) ?? -1]?.source ?? null;
  if (!('asset' in subject) || 'binding' in subject) return null;
  const asset = index.assets[index.assetAt.get(subject.asset) ?? -1] as AssetIndex | undefined;
  return asset ? (itemOf(asset, subject)?.source ?? asset.decl.source ?? null) : null;
}
function itemOf(asset: AssetIndex, subject: Extract<Subject, { asset: string }>): FromGame | undefined {
  if ('event' in subject) return asset.events[asset.eventAt.get(subject.event) ?? -1];
  if ('action' in subject) return asset.actions[asset.actionAt.get(subject.action) ?? -1];
  if ('placement' in subject && subject.placement !== undefined) {
    return asset.placements[asset.placementAt.get(subject.placement) ?? -1];
  }
  if ('property' in subject) return asset.properties[asset.propertyAt.get(subject.property) ?? -1];
  return undefined;
}

/** Where the game declares an event, an action, a channel, an enum or a key table. Cost: the list that it stands in. */
export function sourceOfName(
  { project, assets, assetAt }: ProjectIndex,
  { kind, asset, name }: { kind: string; asset: string; name: string },
): Source | null {
  const of = assets[assetAt.get(asset) ?? -1] as AssetIndex | undefined;
  const lists: Record<string, readonly (FromGame & { name: string })[] | undefined> = {
    event: of?.events,
    action: of?.actions,
    channel: project.channels,
    enum: project.enums,
    table: project.tables,
  };
  return own(lists, kind)?.find((d) => d.name === name)?.source ?? of?.decl.source ?? null;
}

/** `src/lamp.ts:40`. */
export function sourceText({ file, line }: Source): string {
  return line === undefined ? file : `${file}:${line}`;
}
