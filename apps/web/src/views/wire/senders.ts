import { wiredActions, type AssetIndex, type Binding, type ProjectIndex, type Reachable } from '@oquel/core';
import { EVERY } from './candidates.js';
import type { Sender, Strip } from './strips.js';

/** A widget or prefab speaks to a scene: the one that was wired last, or else the first. */
export function sceneToHearIn(index: ProjectIndex, project: string): string | undefined {
  const last = sessionStorage.getItem(`oquel-last-scene-${project}`);
  const scenes = index.assets.filter((a) => a.decl.kind === 'scene').map((a) => a.decl.id);
  return scenes.find((s) => s === last) ?? scenes[0];
}

export function sourceOf(sender: Sender, strip: Strip): Binding['from'] {
  return sender.channel !== null ? { channel: sender.channel } : { at: sender.at, event: strip.event };
}

/** A channel or a selection is chosen alone; things may be many. */
export function togglePick(old: readonly string[], path: string): readonly string[] {
  if (old.includes(path)) return old.filter((p) => p !== path);
  const alone = (p: string): boolean => p.startsWith('#') || p.startsWith(EVERY);
  if (alone(path)) return [path];
  return [...old.filter((p) => !alone(p)), path];
}

export function firstSender(owner: AssetIndex, things: readonly Reachable[]): string {
  const [binding] = owner.bindings;
  if (binding && 'at' in binding.from) return binding.from.at;
  return things.find((t) => t.asset.events.length > 0)?.path ?? '.';
}
export function countBySender(owner: AssetIndex): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { from } of owner.bindings) {
    const at = 'at' in from ? from.at : `#${from.channel}`;
    counts.set(at, (counts.get(at) ?? 0) + 1);
  }
  return counts;
}
export function wiredFor(owner: AssetIndex, sender: Sender, strip: Strip): Map<string, Set<string>> {
  if (sender.channel === null) return wiredActions(owner, sender.at, strip.event);
  const wired = new Map<string, Set<string>>();
  for (const b of strip.bindings) {
    if ('at' in b.to) wired.set(b.to.at, new Set([...(wired.get(b.to.at) ?? []), b.to.action]));
  }
  return wired;
}

export function aboutSender(sender: Sender, things: readonly Reachable[]): string {
  if (sender.channel !== null) return `channel, heard here by ${sender.strips[0].bindings.length}`;
  if (!sender.asset) return 'bindings name it, but it is not there';
  const thing = things.find((t) => t.path === sender.at);
  const values = sender.asset.properties.map(
    (p) => `${p.name} = ${JSON.stringify(thing?.placement?.properties?.[p.name] ?? p.default)}`,
  );
  const state = thing?.asleep ? 'asleep at first' : 'awake';
  return [sender.asset.decl.id, state, ...values].join(' · ');
}
