import type { Value, Values } from './format.js';
import { type Copy, type Instance, instanceIn, placedIn, type Scene } from './instance.js';
import { placeIn } from './naming.js';
import { actionOf } from './queued.js';
import { sameValue } from './value.js';
import type { World } from './world.js';

export type Expectation =
  | { at: string; property: string; is: Value }
  | { at: string; asleep: boolean }
  | { at: string; gone: boolean }
  | { at: string; action: string; times: number };
/** `at` in seconds. */
export type Step = { at: number } & (
  | { raise: { at: string; event: string; payload?: Values; activator?: string; by?: string } }
  | { publish: { channel: string; key?: Value; payload?: Values } }
  | { expect: Expectation }
  | { pause: boolean }
);
export interface Rehearsal {
  name: string;
  loadSet?: string;
  strict?: boolean;
  steps: Step[];
}
/** A line of a trace, ready to be written as canonical JSON. */
export type TraceLine = { kind: string } & Record<string, unknown>;

/** What an address of a step names. */
interface Named {
  instance: Instance | null;
  fault: 'dangling' | 'unloaded' | 'unborn' | null;
  scene: Scene | null;
  at: number;
}

/** The steps of a script, in a world. */
export class Script {
  constructor(
    private readonly world: World,
    private readonly scenes: readonly Scene[],
  ) {}

  /** Takes a step that is no expectation. Returns whether all that it names is there and loaded. */
  take(step: Step, i: number): boolean {
    const { world } = this;
    if ('publish' in step)
      return world.publish(step.publish.channel, step.publish.payload, step.publish.key, i);
    if ('pause' in step) world.pause(step.pause, i);
    if (!('raise' in step)) return true;
    const { at, event, payload, activator, by } = step.raise;
    const { instance, fault, scene, at: place } = this.name(at);
    const isThere =
      scene?.tableOf(place).eventAt.has(event) === true &&
      (activator === undefined || world.assetAt.has(activator)) &&
      (by === undefined || world.wiring.peers.length === 0 || world.wiring.peers.includes(by));
    if (instance && isThere) {
      world.raise(instance.address, event, payload, { activator, by }, i);
      return true;
    }
    const reason = !isThere ? 'dangling' : fault === 'unborn' ? 'gone' : fault!;
    world.write({ kind: 'refused', at: instance?.address ?? at, event, reason }, 0, i);
    // A step at what is not born yet is sound.
    return isThere && fault === 'unborn';
  }

  judge(expect: Expectation, i: number): { ok: boolean; broken: boolean } {
    const named = this.name(expect.at);
    const { instance, fault } = named;
    const at = instance?.address ?? expect.at;
    const { got, reason } = this.stateOf(expect, named, fault);
    const ok = reason === null && sameValue(got!, wantedOf(expect));
    const judged = { ...expect, ok, at, got, ...(reason === null ? {} : { reason }) };
    this.world.write({ kind: 'expect', ...judged } as never, 0, i);
    return { ok, broken: reason === 'dangling' || reason === 'unloaded' };
  }
  private stateOf(
    expect: Expectation,
    { instance, scene, at }: Named,
    fault: Named['fault'],
  ): { got: Value | null; reason: 'dangling' | 'unloaded' | 'gone' | null } {
    const table = scene?.tableOf(at);
    const lacks =
      !table ||
      ('property' in expect && !table.propertyAt.has(expect.property)) ||
      ('action' in expect && !table.actionAt.has(expect.action));
    if (lacks) return { got: null, reason: 'dangling' };
    if (fault === 'unloaded') return { got: null, reason: fault };
    const gone = !instance || instance.gone;
    if ('gone' in expect) return { got: gone, reason: null };
    if ('action' in expect) {
      const number = table.decl.events.length + table.actionAt.get(expect.action)!;
      return { got: instance?.counts[number] ?? 0, reason: null };
    }
    if (gone) return { got: null, reason: 'gone' };
    return { got: 'property' in expect ? instance.get(expect.property)! : instance.isAsleep, reason: null };
  }

  private name(address: string): Named {
    const colon = address.indexOf(':');
    const scene = this.scenes.find((s) => s.file.scene === address.slice(0, Math.max(0, colon)));
    const path = address.slice(colon + 1);
    const at = scene ? placeIn(scene, path) : -1;
    if (!scene || at < 0) return { instance: null, fault: 'dangling', scene: null, at: -1 };
    if (!scene.loaded) return { instance: null, fault: 'unloaded', scene, at };
    if (scene.spawned[at] === 0) return { instance: placedIn(scene, at), fault: null, scene, at };
    const born = scene.born.get(scene.templateOver(at)) ?? [];
    const number = /~[^/]*#(\d+)/.exec(path)?.[1];
    const newest = (): Copy | undefined => born.findLast((c) => !c.root.gone) ?? born.at(-1);
    const copy = number === undefined ? newest() : born[Number(number) - 1];
    return copy
      ? { instance: instanceIn(copy, at), fault: null, scene, at }
      : { instance: null, fault: 'unborn', scene, at };
  }

  /** Writes what is due too late, and returns how much it is. */
  cut(): number {
    const { world } = this;
    let cut = 0;
    for (const { due, item } of world.queue.rest()) {
      if (item.kind === 'raise' && item.special?.dropped) continue;
      cut++;
      const through =
        'bound' in item && item.bound ? { owner: item.bound.owner.address, binding: item.bound.decl.id } : {};
      const what =
        item.kind === 'raise'
          ? { at: item.instance.address, event: item.instance.table.decl.events[item.event].name }
          : item.kind === 'publication'
            ? { channel: item.channel, ...through }
            : { ...through, at: world.whereTo(item), action: actionOf(item.bound) };
      world.write({ kind: 'cut', due, ...what } as never, item.cause);
    }
    return cut;
  }
}

function wantedOf(expect: Expectation): Value {
  if ('property' in expect) return expect.is;
  if ('action' in expect) return expect.times;
  return 'asleep' in expect ? expect.asleep : expect.gone;
}
