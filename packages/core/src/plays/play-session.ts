import { createWorld, type Instance, type Queued, type World, type WorldRecord } from '@oquel/runtime';
import type { WalkWiring } from '../walk/live-walk.js';
import type { Step } from '../project/types.js';
import { LIMITS } from '../limits.js';
import { actionName, ExpectedItems, type Expected } from './expected.js';
import type { BindingName, WhatIsMissing } from './play-report.js';
import type { PlayRecord } from './record-line.js';

/** Hears what is found in a session. */
export interface Findings {
  served(binding: BindingName): void;
  raised(at: string, event: string): void;
  unknown(what: 'event' | 'action' | 'channel', name: string): void;
  unexplained(at: string, action: string, after: { at: string; event: string } | undefined): void;
  missing(what: WhatIsMissing): void;
  doubled(what: BindingName & { at: string; action: string }): void;
  order(late: BindingName & { at: string }, early: BindingName & { at: string }): void;
  despite(at: string, name: string, reason: string): void;
}

/** Raises of late by number, of which a record may be the consequence. */
const RECENT = 4_000;

/**
 * One session of a game, followed record by record: what its records say has happened is done to a world of the same wiring,
 * which says what should follow from it. So each fault is reported by itself, and not by all that comes of it. Cost: for each
 * record what the runtime takes for it.
 */
export class PlaySession {
  private readonly world: World;
  private readonly expected = new ExpectedItems();
  private readonly recent = new Map<number, { at: string; event: string }>();
  private lastRaise: { at: string; event: string } | undefined;
  /** The delivery that came last, of those due at one time. */
  private last: Expected | null = null;
  /** What was served at this moment, to know it when it comes twice. */
  private servedNow: { t: number; keys: Set<string> } = { t: -1, keys: new Set() };
  private refused: string | null = null;
  /** Written by a runtime: every record has its number and its cause, so what is lost is written as well. */
  private isComplete = false;
  private begun = false;
  now = 0;
  readonly steps: Step[] = [];

  constructor(
    { project, scenes }: WalkWiring,
    private readonly tolerance: number,
    private readonly found: Findings,
    /** So many of its steps are kept, to be a rehearsal. */
    private readonly mostSteps: number = LIMITS.plays.steps,
  ) {
    const record = (r: WorldRecord): void => {
      if (r.kind === 'refused') this.refused = r.reason;
    };
    const later = (item: Queued, due: number): void => {
      const expected = this.expected.add(item, due);
      if (item.kind === 'publication') this.publications.push(expected);
    };
    this.world = createWorld(project, { record, later });
    this.world.load(...scenes);
  }

  take(r: PlayRecord): void {
    if (!this.begun) {
      this.begun = true;
      this.isComplete = r.n !== undefined && r.cause !== undefined;
      this.expected.isTimed = r.t !== undefined;
    }
    this.goTo(r.t ?? this.now);
    if (r.kind === 'raise') this.raise(r);
    else if (r.kind === 'performed') this.performed(r);
    else if (r.kind === 'lost') this.lost(r);
    else if (r.kind === 'publication') this.publication(r);
    else if (r.kind === 'pause') this.pause(r);
    else if (r.kind === 'change') this.change(r);
    else if (r.kind === 'wake' || r.kind === 'sleep') this.world.setAsleep(r.at!, r.kind === 'sleep');
    else if (r.kind === 'gone') this.world.destroy(r.at!);
    else if (r.kind === 'born') this.born(r);
    else if (r.kind === 'runaway') this.giveUp();
  }
  /** The session is over: what should have come by now and did not is reported. */
  end(): void {
    if (!this.expected.isTimed) this.expire(0);
    else this.expire(this.isComplete ? this.now : this.now - this.tolerance - 1);
  }
  /** What was given up, since too much was waited for. */
  get left(): number {
    return this.expected.left;
  }

  private goTo(t: number): void {
    const time = Math.max(t, this.now);
    this.publishDue(time);
    if (this.expected.isTimed) this.expire(time - this.tolerance - 1);
    this.now = time;
    if (time > this.world.now) this.world.open(time);
  }
  /** What was due up to a time and has not come. */
  private expire(until: number): void {
    for (const e of this.expected.takeUntil(until)) this.tellMissing(e.item);
  }
  /** A loop without end was cut off: what was due then does not come. */
  private giveUp(): void {
    for (const _ of this.expected.takeUntil(this.now));
  }
  private publications: Expected[] = [];
  /** Games of their own code do not write what goes over channels: it is taken to have gone. */
  private publishDue(until: number): void {
    const waiting: Expected[] = [];
    while (this.publications.length > 0) {
      const due = this.publications;
      this.publications = [];
      for (const e of due) {
        if (e.over || this.isComplete) continue;
        if (e.due > until) waiting.push(e);
        else {
          if (e.due > this.world.now) this.world.open(e.due);
          this.done(e);
        }
      }
    }
    this.publications = waiting;
  }

  private tellMissing(item: Queued): void {
    if (item.kind === 'raise') {
      // Starts are those of the scenes that a game has loaded, which nobody tells.
      if (item.special?.dropped || item.special?.startQueued !== undefined) return;
      if (this.world.refusal(item) !== null) return;
      const { instance, event } = item;
      this.found.missing({ at: instance.address, event: instance.table.decl.events[event].name });
    } else if (item.kind === 'publication') {
      if (item.bound) this.found.missing({ ...nameOf(item.bound), channel: item.channel });
    } else {
      if (!this.isComplete && this.world.loss(item) !== null) return;
      this.found.missing({ ...nameOf(item.bound), at: this.world.whereTo(item), action: actionName(item) });
    }
  }

  private raise(r: PlayRecord): void {
    const [at, event] = [r.at!, r.event!];
    const instance = this.world.instance(at);
    const number = instance?.table.eventAt.get(event);
    this.lastRaise = { at, event };
    this.remember(r);
    if (!instance || number === undefined) return this.found.unknown('event', `${at} ${event}`);
    this.found.raised(at, event);
    const fits = (item: Queued): boolean =>
      item.kind === 'raise' && item.event === number && item.special?.dropped !== true;
    // What nothing has caused is not what is to come only later.
    const expected = this.expected.find(instance, r.cause === 0 ? this.now : this.by, fits);
    this.refused = null;
    if (expected) this.done(expected);
    else {
      const activator = this.activatorFor(instance, number);
      const who = {
        ...(activator === undefined ? {} : { activator }),
        ...(r.by !== undefined && this.world.wiring.peers.includes(r.by) ? { by: r.by } : {}),
      };
      this.world.raise(at, event, r.payload, who);
      const payload = r.payload && Object.keys(r.payload).length > 0 ? { payload: r.payload } : {};
      this.step({ at: this.now / 1e6, raise: { at, event, ...payload, ...who } });
    }
    const reason = this.refused as string | null;
    if (reason !== null) this.found.despite(at, event, reason);
  }
  private performed(r: PlayRecord): void {
    const [at, action] = [r.at!, r.action!];
    const instance = this.world.instance(at);
    if (!instance || !instance.table.actionAt.has(action)) {
      return this.found.unknown('action', `${at} ${action}`);
    }
    // What a binding has brought has a cause.
    const expected = r.cause === 0 ? null : this.delivery(instance, r);
    if (expected) {
      const { item } = expected;
      if (item.kind !== 'delivery') return;
      const reason = this.world.loss(item);
      const name = nameOf(item.bound);
      this.inOrder(expected);
      this.count(name, at);
      this.done(expected);
      if (reason !== null) {
        this.found.despite(at, action, reason);
        this.world.act(at, action, r.args);
      }
      return;
    }
    if (!this.isTwice(r)) this.found.unexplained(at, action, this.cause(r));
    this.world.act(at, action, r.args);
  }
  private published(r: PlayRecord): Expected | null {
    return this.expected.find(`#${r.channel!}`, this.by, (item) => {
      if (item.kind !== 'publication' || !item.bound) return false;
      return (
        r.binding === undefined || (item.bound.decl.id === r.binding && item.bound.owner.address === r.owner)
      );
    });
  }
  private lost(r: PlayRecord): void {
    if (r.channel !== undefined) {
      const expected = r.binding === undefined ? null : this.published(r);
      if (expected) this.lostAt(expected, `#${r.channel}`);
      else this.isTwice(r);
    } else if (r.at !== undefined && r.action !== undefined) {
      // What does not resolve has no instance.
      const expected = this.delivery(this.world.instance(r.at), r) ?? this.delivery(null, r);
      if (expected) this.lostAt(expected, r.at);
      else this.isTwice(r);
    }
  }
  private lostAt(expected: Expected, at: string): void {
    const { item } = expected;
    this.inOrder(expected);
    if (item.kind !== 'raise' && item.bound) this.count(nameOf(item.bound), at);
    this.expected.end(expected);
  }
  private delivery(instance: Instance | null, r: PlayRecord): Expected | null {
    return this.expected.find(instance, this.by, (item) => {
      if (item.kind !== 'delivery') return false;
      if (r.binding === undefined || r.owner === undefined) return actionName(item) === r.action;
      return item.bound.decl.id === r.binding && item.bound.owner.address === r.owner;
    });
  }
  private publication(r: PlayRecord): void {
    const isOwn = r.cause === 0 || (r.cause === undefined && r.binding === undefined);
    const expected = isOwn ? null : this.published(r);
    if (expected?.item.kind === 'publication' && expected.item.bound) {
      this.inOrder(expected);
      this.count(nameOf(expected.item.bound), `#${r.channel!}`);
      this.lastPublished = expected.item;
      this.done(expected);
    } else if (isOwn) {
      if (!this.world.publish(r.channel!, r.payload, r.key)) return this.found.unknown('channel', r.channel!);
      const key = r.key === undefined ? {} : { key: r.key };
      this.step({
        at: this.now / 1e6,
        publish: { channel: r.channel!, ...key, ...(r.payload ? { payload: r.payload } : {}) },
      });
    } else if (this.isTwice(r) && this.lastPublished) this.world.do(this.lastPublished);
  }
  /** What went over a channel last, which may go there twice. */
  private lastPublished: Queued | null = null;
  /** Whether a binding does at one moment once more what it has done; then that is reported. */
  private isTwice({ owner, binding, at, action = '', channel }: PlayRecord): boolean {
    if (owner === undefined || binding === undefined || this.servedNow.t !== this.now) return false;
    const to = at ?? `#${channel!}`;
    const is = this.servedNow.keys.has(keyOf({ owner, binding }, to));
    if (is) this.found.doubled({ owner, binding, at: to, action });
    return is;
  }
  private pause(r: PlayRecord): void {
    this.world.pause(r.is === true);
    this.step({ at: this.now / 1e6, pause: r.is === true });
  }
  /** A value that other code has put. */
  private change(r: PlayRecord): void {
    const instance = this.world.instance(r.at!);
    const number = instance?.table.propertyAt.get(r.property!);
    if (instance && number !== undefined && r.to !== undefined) instance.put(number, r.to);
  }
  /** What other code has spawned. */
  private born(r: PlayRecord): void {
    if (this.world.instance(r.at!)) return;
    const place = /^(.*?)\/?~([^/#]+)#\d+$/.exec(r.at!);
    if (!place) return;
    const [, holder, asset] = place;
    this.world.spawn(holder.endsWith(':') ? `${holder}.` : holder, asset);
  }

  /** Until when what is due counts as due now. */
  private get by(): number {
    return this.expected.isTimed ? this.now + this.tolerance : Infinity;
  }
  private done(expected: Expected): void {
    this.expected.end(expected);
    this.world.do(expected.item);
  }
  private count(name: BindingName, at: string): void {
    this.found.served(name);
    if (this.servedNow.t !== this.now) this.servedNow = { t: this.now, keys: new Set() };
    this.servedNow.keys.add(keyOf(name, at));
  }
  private inOrder(expected: Expected): void {
    const { last } = this;
    if (last?.due === expected.due && expected.seq < last.seq) {
      const [late, early] = [placed(expected.item), placed(last.item)];
      if (late && early) this.found.order(late, early);
      return;
    }
    this.last = expected;
  }
  private remember(r: PlayRecord): void {
    if (r.n === undefined) return;
    this.recent.set(r.n, { at: r.at!, event: r.event! });
    if (this.recent.size > RECENT) this.recent.delete(this.recent.keys().next().value!);
  }
  private cause(r: PlayRecord): { at: string; event: string } | undefined {
    return r.cause === undefined ? this.lastRaise : this.recent.get(r.cause);
  }
  /** Somebody whom the event's filter admits: the game has let it through, whoever that was. */
  private activatorFor(instance: Instance, event: number): string | undefined {
    const { assets } = this.world.wiring;
    const list = instance.table.decl.events[event].activators ?? [];
    return assets.find(({ id, tags }) => list.includes(id) || tags?.some((t) => list.includes(`#${t}`)))?.id;
  }
  private step(step: Step): void {
    if (this.steps.length < this.mostSteps) this.steps.push(step);
  }
}

function nameOf(bound: { owner: Instance; decl: { id: string } }): BindingName {
  return { owner: bound.owner.address, binding: bound.decl.id };
}
function keyOf({ owner, binding }: BindingName, at: string): string {
  return `${owner} ${binding} ${at}`;
}
function placed(item: Queued): (BindingName & { at: string }) | null {
  if (item.kind === 'delivery') return { ...nameOf(item.bound), at: item.instance?.address ?? '' };
  if (item.kind === 'publication' && item.bound) return { ...nameOf(item.bound), at: `#${item.channel}` };
  return null;
}
