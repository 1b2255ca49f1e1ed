import type { Asset, Rehearsal } from '../../src/index.js';
import {} from '../../src/index.js';
import { NaiveEffects } from './effects.js';
import { eq, us, type Inst, type Rec } from './world.js';

/** The run: starts, timers, steps, expectations, what is cut off. */
export class NaiveRehearsal extends NaiveEffects {
  // --- the run

  /** Runs it; the lines are records without head, then the verdict. Only for load sets that are there. */
  run(): Rec[] {
    const set =
      this.rehearsal.loadSet === undefined
        ? null
        : this.project.loadSets!.find((s) => s.name === this.rehearsal.loadSet)!;
    for (const a of this.project.assets) {
      if (a.kind !== 'scene') continue;
      const scene = this.build(a, a.id, null, false, [], a.id);
      this.hand(scene, this.peers()[0], undefined, scene);
      this.scenes.set(a.id, scene);
      if (!set || a.persistent === true || set.scenes.includes(a.id)) this.loaded.add(a.id);
    }
    const steps = this.rehearsal.steps.map((step, i) => ({ step, i, t: us(step.at) }));
    const last = Math.max(0, ...steps.map((s) => s.t));
    this.startQueue = [];
    for (const i of this.all()) this.startIfAwake(i, 0);
    const starts = this.startQueue;
    this.startQueue = null;
    for (const take of starts) take();
    const tally = { held: 0, failed: 0, steps: 0, cut: 0 };
    const judged = new Set<number>();
    for (let t = 0; t !== Infinity && !this.over; t = this.nextTime(steps, judged, last)) {
      this.now = t;
      for (const { step, i } of steps) {
        if (us(step.at) !== t || 'expect' in step) continue;
        judged.add(i);
        if (!this.step(step, i)) tally.steps++;
      }
      this.tick(last);
      for (;;) {
        this.queue.sort((a, b) => a.due - b.due || a.seq - b.seq);
        if (this.queue.length === 0 || this.queue[0].due !== t || this.over) break;
        this.queue.shift()!.take();
      }
      for (const { step, i } of steps) {
        if (us(step.at) !== t || !('expect' in step) || this.over) continue;
        judged.add(i);
        const { ok, broken } = this.expect(step.expect, i);
        if (ok) tally.held++;
        else tally.failed++;
        if (broken) tally.steps++;
      }
    }
    if (!this.over) {
      this.queue.sort((a, b) => a.due - b.due || a.seq - b.seq);
      for (const item of this.queue) {
        tally.cut++;
        this.write({ kind: 'cut', due: item.due, ...item.cut() }, item.cause);
      }
    }
    const unjudged = steps.filter(({ step, i }) => 'expect' in step && !judged.has(i)).length;
    const pass = tally.failed === 0 && tally.steps === 0 && !this.over;
    return [
      ...this.lines,
      {
        kind: 'verdict',
        name: this.rehearsal.name,
        pass,
        records: this.n,
        deliveries: this.deliveries,
        end: this.now,
        ...tally,
        unjudged,
        runaway: this.over,
      },
    ];
  }
  protected nextTime(steps: { t: number; i: number }[], judged: Set<number>, last: number): number {
    const due = this.queue.map((q) => q.due).filter((d) => d <= last + 60e6);
    const ticks = this.all().flatMap((i) => this.nextTicks(i, last));
    return Math.min(Infinity, ...due, ...ticks, ...steps.filter((s) => !judged.has(s.i)).map((s) => s.t));
  }
  protected nextTicks(i: Inst, last: number): number[] {
    if (i.gone) return [];
    return (i.asset.events ?? []).flatMap(({ cause }) => {
      if (cause.type !== 'timer') return [];
      const every = us(cause.every);
      const next = i.timersFrom + (Math.floor((this.now - i.timersFrom) / every) + 1) * every;
      return next <= last ? [next] : [];
    });
  }
  protected tick(last: number): void {
    for (const i of this.all()) {
      for (const event of i.asset.events ?? []) {
        if (event.cause.type !== 'timer' || i.gone || this.now > last) continue;
        const passed = this.now - i.timersFrom;
        if (passed <= 0 || passed % us(event.cause.every) !== 0 || this.asleep(i)) continue;
        this.takeRaise(i, event, {}, 0);
      }
    }
  }
  /** What an address of a step names. */
  protected named(address: string): { fault?: string; inst?: Inst; asset?: Asset } {
    const colon = address.indexOf(':');
    const scene = colon < 0 ? undefined : this.scenes.get(address.slice(0, colon));
    if (!scene) return { fault: 'dangling' };
    let number: number | null = null;
    const plain = address.replace(/(~[^/#]+)(?:#(\d+))?/g, (_all, name: string, n?: string) => {
      number = n === undefined ? null : Number(n);
      return name;
    });
    const r = this.resolve(scene, plain);
    if (!r.found) return { fault: 'dangling' };
    const asset = this.assetOf(scene, plain)!;
    if (!r.loaded) return { fault: 'unloaded', asset };
    if (!r.many) return { inst: r.found[0], asset };
    const root = (i: Inst): Inst => (i.parent ? root(i.parent) : i);
    const living = r.found.filter((i) => !root(i).gone);
    const inst = number !== null ? r.found[number - 1] : (living.at(-1) ?? r.found.at(-1));
    return inst ? { inst, asset } : { fault: 'unborn', asset };
  }
  protected step(step: Rehearsal['steps'][number], i: number): boolean {
    if ('pause' in step) {
      this.paused = step.pause;
      this.write({ kind: 'pause', is: step.pause }, 0, i);
    } else if ('publish' in step) {
      const { channel, key, payload = {} } = step.publish;
      const known = this.project.channels?.some((c) => c.name === channel) === true;
      this.takePublication(
        channel,
        known,
        key,
        payload,
        null,
        0,
        this.peers().length > 0 ? this.peers() : null,
        i,
      );
      return known;
    } else if ('raise' in step) {
      const { at, event, payload = {}, activator, by } = step.raise;
      const named = this.named(at);
      const decl = named.asset?.events?.find((e) => e.name === event);
      const strange =
        (by !== undefined && this.peers().length > 0 && !this.peers().includes(by)) ||
        (activator !== undefined && !this.asset(activator));
      const fault = named.fault === 'dangling' || !decl || strange ? 'dangling' : named.fault;
      if (fault) {
        this.write(
          {
            kind: 'refused',
            at: named.inst ? this.address(named.inst) : at,
            event,
            reason: fault === 'unborn' ? 'gone' : fault,
          },
          0,
          i,
        );
        return fault === 'unborn';
      }
      this.takeRaise(named.inst!, decl!, payload, 0, i, {
        by: this.peers().length > 0 ? by : undefined,
        activator,
      });
    }
    return true;
  }
  protected expect(e: Rec & { at: string }, i: number): { ok: boolean; broken: boolean } {
    const named = this.named(e.at);
    const at = named.inst ? this.address(named.inst) : e.at;
    const { asset, inst } = named;
    const lacks =
      ('property' in e && !asset?.properties?.some((p) => p.name === e.property)) ||
      ('action' in e && !asset?.actions?.some((a) => a.name === e.action));
    let reason =
      named.fault === 'dangling' || lacks ? 'dangling' : named.fault === 'unloaded' ? 'unloaded' : '';
    let got: unknown = null;
    const gone = !inst || inst.gone;
    if (reason === '') {
      if ('gone' in e) got = gone;
      else if ('action' in e) got = inst?.counts.get(`a:${e.action as string}`) ?? 0;
      else if (gone) reason = 'gone';
      else got = 'asleep' in e ? this.asleep(inst) : this.current(inst, e.property as string);
    }
    const wanted = 'property' in e ? e.is : 'action' in e ? e.times : 'asleep' in e ? e.asleep : e.gone;
    const ok = reason === '' && eq(got, wanted);
    this.write({ kind: 'expect', ...e, ok, at, got, ...(reason === '' ? {} : { reason }) }, 0, i);
    return { ok, broken: reason === 'dangling' || reason === 'unloaded' };
  }
}
