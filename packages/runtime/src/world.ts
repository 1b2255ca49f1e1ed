import { performEffects } from './effects.js';
import { EventOf, type RaiseOptions } from './event-of.js';
import { FORMAT, type Value, type Values, type WiringProject, type WiringScene } from './format.js';
import type { Game, Wired } from './game.js';
import { placedIn, type Instance, type Scene } from './instance.js';
import { raiseOf, through, type Raise } from './queued.js';
import { eventNumber, SceneOf } from './scene.js';
import { NONE } from './value.js';
import { WorldDeliveries } from './world-deliveries.js';

const NO_OPTIONS: RaiseOptions = {};

/** Makes a world that runs compiled wiring. @throws Error if the file is of another format */
export function createWorld(wiring: WiringProject, game: Game = {}): World {
  const { format }: { format: string } = wiring;
  if (format !== FORMAT) throw new Error(`expected ${FORMAT}, found ${format}`);
  return new World(wiring, game);
}

/**
 * The wiring of a game while it runs. Nothing here throws in the loop: what goes wrong is a record with its reason.
 * What is raised is judged at once; what follows is done by the next {@link World.advance}, breadth first.
 */
export class World extends WorldDeliveries {
  // --- Scenes

  /** Loads scenes together: what is awake in them starts. @throws Error for files of another compilation, or loaded already */
  load(...files: readonly (WiringScene | Scene)[]): void {
    const scenes = files.map((f) => (f instanceof SceneOf ? f : this.prepare(f)));
    for (const scene of scenes) {
      if (this.isLoaded(scene.file.scene)) throw new Error(`${scene.file.scene} is loaded already`);
      scene.loaded = true;
      scene.since = this.life.clock;
    }
    this.loaded.add(scenes);
    this.forget();
    const starts: Raise[] = [];
    for (const scene of this.loaded.scenes.filter((s) => scenes.includes(s))) {
      for (let i = 0; i < scene.count; i++) {
        if (scene.spawned[i] === 1) continue;
        const { starts: hasStarts, timers } = scene.tableOf(i);
        for (const event of timers)
          this.time({ instance: placedIn(scene, i), event, from: this.now, tick: 1 });
        if (!hasStarts || placedIn(scene, i).isAsleep) continue;
        for (const start of this.life.start(placedIn(scene, i), 0)) starts.push(start);
      }
    }
    if (this.game.later) this.queueNow(...starts);
    else for (const start of starts) this.takeRaise(start);
  }
  /** Makes a scene's file ready, so that {@link load} has less to do. */
  prepare(file: WiringScene): Scene {
    if (file.format !== FORMAT || file.hash !== this.wiring.hash)
      throw new Error(`the file of ${file.scene} is of another version of the wiring`);
    return new SceneOf(this.wiring, this.tables, file);
  }
  /** Unloads a scene: nothing of it acts or is heard any more. */
  unload(name: string): void {
    if (this.loaded.remove(name)) this.forget();
  }
  private forget(): void {
    this.bound.forget();
    this.life.changes++;
  }

  // --- What the game does

  /** Raises an event of an instance now; one that the game holds by {@link instance} need not be looked up. */
  raise(
    of: string | Instance,
    event: string,
    payload: Values = NONE,
    options: RaiseOptions = NO_OPTIONS,
    step?: number,
  ): boolean {
    const instance = typeof of === 'string' ? this.instance(of) : of;
    const number = instance ? eventNumber(instance.table, event) : undefined;
    const isPlain = options === NO_OPTIONS && step === undefined;
    if (isPlain && instance && number !== undefined && this.queues(this.burstOf(instance, number)))
      return true;
    const { activator, by } = options;
    const peer =
      by === undefined || this.wiring.peers.length === 0 ? undefined : this.wiring.peers.indexOf(by);
    const missing =
      number === undefined || peer === -1 || (activator !== undefined && !this.assetAt.has(activator));
    if (!instance || missing) {
      const at = instance?.address ?? (of as string);
      this.write({ kind: 'refused', at, event, reason: 'dangling' }, 0, step);
      return false;
    }
    this.takeRaise(raiseOf(instance, number, payload, 0, isPlain ? null : { step, by: peer, activator }));
    return true;
  }
  /** An event of an instance, to be raised again and again; null if there is no such thing. */
  event(address: string, name: string): EventOf | null {
    const instance = this.instance(address);
    const number = instance ? eventNumber(instance.table, name) : undefined;
    return instance && number !== undefined ? new EventOf(this, instance, name, number) : null;
  }
  /** Publishes to a channel now. */
  publish(channel: string, payload: Values = NONE, key?: Value, step?: number): boolean {
    const known = this.channels.has(channel);
    const audience = this.wiring.peers.length > 0 ? [...this.wiring.peers.keys()] : null;
    const head = { kind: 'publication', cause: 0, step, bound: null, audience } as const;
    this.serving.publish({ ...head, channel, known, key, payload });
    return known;
  }
  /** Pauses the game, or lets it go on. Time goes on all the same. */
  pause(is: boolean, step?: number): void {
    this.paused = is;
    this.life.changes++;
    this.write({ kind: 'pause', is }, 0, step);
  }
  /** Spawns a copy as an effect of an instance would. */
  spawn(by: string, asset: string, values: Readonly<Record<string, Value>> = {}): Instance | null {
    const instance = this.instance(by);
    return instance ? this.life.spawn(instance, asset, values, 0) : null;
  }
  /** Destroys an instance with all that it contains. */
  destroy(address: string): void {
    const instance = this.instance(address);
    if (instance) this.life.destroy(instance, 0);
  }
  /** An action that other code performs: its effects follow. Returns whether there is such an action. */
  act(address: string, action: string, args: Values = NONE): boolean {
    const instance = this.instance(address);
    const number = instance?.table.actionAt.get(action);
    if (!instance || number === undefined || instance.gone) return false;
    const { actions, events } = instance.table.decl;
    const times = ++instance.counts[events.length + number];
    const { effects } = actions[number];
    if (effects) performEffects(this, instance, actions[number], args, times, 0);
    return true;
  }
  setAsleep(address: string, asleep: boolean): void {
    const instance = this.instance(address);
    if (instance) this.life.setAsleep(instance, asleep, 0);
  }
  /** What an address names; `~X` is the newest copy that lives, or else the newest, `~X#2` that one. Null for nothing. */
  instance(address: string): Instance | null {
    return this.loaded.instance(address);
  }

  /** What a raise of an event would bring now, for tools: each binding in running order, with whom it reaches. */
  wired(address: string, event: string): Wired[] {
    const instance = this.instance(address);
    const number = instance?.table.eventAt.get(event);
    if (!instance || number === undefined) return [];
    return this.bound
      .on(instance, number)
      .filter((bound) => bound.towards(instance) === 'holds' && this.serving.publishes(bound, instance))
      .map((bound) => {
        const { to, delay = 0, limit } = bound.decl;
        const receivers = 'channel' in to ? [] : (this.selector.receivers(bound, instance) ?? []);
        return {
          ...through(bound),
          to: 'channel' in to ? `#${to.channel}` : to.action,
          receivers: receivers.map((r) => r.address),
          delay,
          left: limit === undefined ? Infinity : limit - bound.served,
        };
      });
  }
}
