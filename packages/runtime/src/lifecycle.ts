import type { Value } from './format.js';
import { Copy, instanceIn, type Bound, type Instance } from './instance.js';
import { raiseOf, type Raise, type Timer } from './queued.js';
import type { RecordBody } from './records.js';
import { listAt } from './scene.js';
import { NONE } from './value.js';
import type { Wiring } from './wiring.js';

/** The world that things come and go in. */
export interface LifeHost {
  readonly now: number;
  readonly assetAt: ReadonlyMap<string, number>;
  write(body: RecordBody, cause: number): number;
  /** Queues raises for this very moment, after all that is queued already. */
  queueNow(...raises: Raise[]): void;
  time(timer: Timer): void;
}

/** How instances start, sleep and wake, are spawned and destroyed, and what bindings release then. */
export class Lifecycle {
  /** Counts what takes hold and what is started, so that what came before what can be said. */
  clock = 0;
  /** Instances that spawning has made. */
  copies = 0;
  /** Counts whatever changes who acts, who is heard and what is bound. */
  changes = 0;

  constructor(
    private readonly host: LifeHost,
    private readonly wiring: Wiring,
  ) {}

  /** Lets its bindings take hold that wait for its start, and makes its start raises. */
  start(instance: Instance, cause: number): Raise[] {
    this.changes++;
    instance.started = ++this.clock;
    return instance.table.decl.events.flatMap(({ cause: by }, event) => {
      if (by !== 'start') return [];
      return [raiseOf(instance, event, NONE, cause, { startQueued: ++this.clock })];
    });
  }
  private startAwake(instance: Instance, cause: number): void {
    for (const inside of instance.contents()) {
      if (!inside.table.starts || inside.started >= 0 || inside.gone || inside.isAsleep) continue;
      this.host.queueNow(...this.start(inside, cause));
    }
  }
  setAsleep(instance: Instance, asleep: boolean, cause: number): void {
    if (instance.asleep === asleep) return;
    instance.asleep = asleep;
    this.changes++;
    this.host.write({ kind: asleep ? 'sleep' : 'wake', at: instance.address }, cause);
    if (!asleep) this.startAwake(instance, cause);
  }
  /** Null where the asset is never spawned there. */
  spawn(
    by: Instance,
    asset: string,
    overrides: Readonly<Record<string, Value>>,
    cause: number,
  ): Instance | null {
    const { scene } = by;
    const template = scene.templateFor(by.at, this.host.assetAt.get(asset) ?? -1);
    if (template < 0) return null;
    this.changes++;
    this.copies += scene.end[template] - template;
    const born = listAt(scene.born, template);
    const peers = scene.file.peers ? by.peersOf : { authority: -1, operator: -1 };
    const copy = new Copy(
      scene,
      template,
      born.length + 1,
      ++this.clock,
      overrides,
      peers.authority,
      peers.operator,
    );
    born.push(copy);
    listAt(scene.copies, template).push(copy);
    const { root } = copy;
    this.host.write({ kind: 'born', at: root.address, asset }, cause);
    for (let i = template; i < scene.end[template]; i++) {
      for (const event of scene.tableOf(i).timers)
        this.host.time({ instance: instanceIn(copy, i), event, from: this.host.now, tick: 1 });
    }
    this.startAwake(root, cause);
    return root;
  }
  destroy(instance: Instance, cause: number): void {
    if (instance.gone) return;
    this.host.write({ kind: 'gone', at: instance.address }, cause);
    const going = [...instance.contents()].filter((inside) => !inside.gone);
    for (const inside of going) {
      inside.table.decl.events.forEach(({ cause: by }, event) => {
        if (by !== 'destroyed') return;
        const stood = this.wiring.on(inside, event).map((bound) => ({ bound, hold: bound.towards(inside) }));
        this.host.queueNow(raiseOf(inside, event, NONE, cause, { stood }));
      });
    }
    for (const { scene, at } of going) {
      const inside = instance.beside(at);
      for (let row = scene.firstRow[at]; row < scene.firstRow[at + 1]; row++) this.letGo(inside.bound(row));
    }
    for (const inside of going) inside.gone = true;
    this.changes++;
    const { copy, scene } = instance;
    if (!copy || instance !== copy.root) return;
    for (let i = copy.template; i < scene.end[copy.template]; i++) if (scene.tableOf(i).clings) return;
    const list = scene.copies.get(copy.template)!;
    list.splice(list.indexOf(copy), 1);
  }
  /** A binding that releases all takes with it every other one that holds on the same event or channel. */
  private letGo(bound: Bound): void {
    if (bound.decl.release !== 'all') return;
    for (const sender of this.wiring.sendersOf(bound)) {
      if (bound.towards(sender) === 'not') continue;
      const { from } = bound.decl;
      const beside =
        'channel' in from
          ? this.wiring.hearersOf(from.channel)
          : this.wiring.on(sender!, bound.owner.scene.file.bindings.event[bound.row]);
      for (const other of beside)
        if (other !== bound && other.towards(sender) === 'holds') other.release(sender);
    }
  }
}
