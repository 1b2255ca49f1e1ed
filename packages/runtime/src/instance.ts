import type { Value, Values, WiringBinding } from './format.js';
import type { AssetTable, SceneOf } from './scene.js';
import type { Tally } from './tally.js';
import { evaluate, isLiteral, NONE, own, type Reader } from './value.js';

/** A scene while the game runs. */
export type Scene = SceneOf<Instance, Copy, Bound>;

/** One copy that was spawned of a template. */
export class Copy {
  /** What it contains, itself included, by the instance's number; made when first asked for. */
  readonly inside = new Map<number, Instance>();
  constructor(
    readonly scene: Scene,
    readonly template: number,
    /** Counted from 1, in order of birth. */
    readonly number: number,
    /** When it was born, on the clock of binding. */
    readonly born: number,
    readonly overrides: Readonly<Record<string, Value>>,
    readonly authority: number,
    readonly operator: number,
  ) {}
  get root(): Instance {
    return instanceIn(this, this.template);
  }
}

/** One instance while the game runs: a placed one, or one in a copy of a template. */
export class Instance implements Reader {
  gone = false;
  /** When it started, on the clock of binding; −1 until it is first awake. */
  started = -1;
  /** Values that effects have put, by property number. */
  private values: (Value | undefined)[] | null = null;
  /** Raises of each event, then performances of each action. */
  readonly counts: number[];
  readonly table: AssetTable;
  /** What was found of each event's deliveries. */
  readonly bursts: (Burst | undefined)[] = [];
  private readonly bounds: (Bound | undefined)[] = [];
  private peers: { authority: number; operator: number } | null = null;
  private name: string | null = null;
  /** Its own flag; what contains it may be asleep besides. */
  asleep: boolean;

  constructor(
    readonly scene: Scene,
    readonly at: number,
    readonly copy: Copy | null,
  ) {
    this.table = scene.tableOf(at);
    const { events, actions } = this.table.decl;
    this.counts = new Array<number>(events.length + actions.length).fill(0);
    this.asleep = scene.asleep[at] === 1;
  }

  /** The id of its asset. */
  get asset(): string {
    return this.table.decl.id;
  }
  /** `scene:holder/~Asset#2/inside` for what is in a copy. */
  get address(): string {
    if (this.name === null) {
      const { scene, copy } = this;
      this.name = copy ? this.addressInCopy(copy) : scene.addressOf(this.at);
    }
    return this.name;
  }
  private addressInCopy({ scene, template, number }: Copy): string {
    const names: string[] = [];
    for (let at = this.at; at !== template; at = scene.file.parent[at]) names.push(scene.file.name[at]);
    names.push(`${scene.file.name[template]}#${number}`);
    return under(scene.addressOf(scene.file.parent[template]), names.reverse().join('/'));
  }
  /** The instance of that number beside it: in the same copy, or placed. */
  beside(at: number): Instance {
    return this.copy && this.scene.spawned[at] === 1 ? instanceIn(this.copy, at) : placedIn(this.scene, at);
  }
  /** Whether it or what contains it is asleep. */
  get isAsleep(): boolean {
    if (this.asleep) return true;
    const { scene, copy } = this;
    for (let at = scene.container[this.at]; at >= 0; at = scene.container[at]) {
      const around = copy ? copy.inside.get(at) : scene.placed[at];
      if (around ? around.asleep : scene.asleep[at] === 1) return true;
    }
    return false;
  }
  /** The value before any effect; undefined if the property is not declared. */
  initial(property: string): Value | undefined {
    const { copy, at } = this;
    if (!copy || at !== copy.template) return this.scene.initialOf(at, property);
    const number = this.table.propertyAt.get(property);
    if (number === undefined) return undefined;
    return own(copy.overrides, property) ?? this.table.decl.properties[number].default;
  }
  /** The value now; undefined if the property is not declared. */
  get(property: string): Value | undefined {
    const number = this.table.propertyAt.get(property);
    return number === undefined ? undefined : (this.values?.[number] ?? this.initial(property));
  }
  put(number: number, value: Value): void {
    (this.values ??= [])[number] = value;
  }
  /** Its peers, as numbers: a copy's are those of what spawned it. */
  get peersOf(): { authority: number; operator: number } {
    if (!this.peers) {
      const { scene, at, copy } = this;
      const { authority, operator, named } = scene.file.peers!;
      let [keeps, steers] = [authority[at], operator[at]];
      if (copy) {
        const around =
          at === copy.template ? copy : copy.root.scene && instanceIn(copy, scene.file.parent[at]).peersOf;
        const bits = named.find(([i]) => i === at)?.[1] ?? 0;
        if ((bits & 1) === 0) keeps = around.authority;
        if ((bits & 2) === 0) steers = around.operator;
      }
      this.peers = { authority: keeps, operator: steers };
    }
    return this.peers;
  }
  /** Its binding of that row. */
  bound(row: number): Bound {
    const place = row - this.scene.firstRow[this.at];
    return (this.bounds[place] ??= new Bound(this, row, this.scene.declOf(row)));
  }
  /** What it contains, itself included: spawned things do not count for a placed one. */
  *contents(): Iterable<Instance> {
    const { scene, at } = this;
    for (let i = at; i < scene.end[at]; i++) if (scene.spawned[i] === scene.spawned[at]) yield this.beside(i);
  }
}

export function placedIn(scene: Scene, at: number): Instance {
  return (scene.placed[at] ??= new Instance(scene, at, null));
}
export function instanceIn(copy: Copy, at: number): Instance {
  let instance = copy.inside.get(at);
  if (!instance) copy.inside.set(at, (instance = new Instance(copy.scene, at, copy)));
  return instance;
}
/** An address below another one. */
export function under(address: string, path: string): string {
  return address.endsWith(':.') ? `${address.slice(0, -1)}${path}` : `${address}/${path}`;
}

/** How a binding stands towards a sender (null: towards the channel that it hears). */
export type Hold = 'not' | 'released' | 'holds';

/** One expanded binding while the game runs, in one copy of its owner. */
export class Bound {
  /** Raises served. */
  served = 0;
  private released: Set<Instance | null> | null = null;
  /** The sender, or the receiver, lies in the owner's own copy. */
  readonly fromInside: boolean;
  readonly toInside: boolean;
  /** The one receiver, where that is placed in the same scene: nearly always. */
  readonly receiver: Instance | null;
  /** The number of its action; −1 for none. */
  readonly action: number;
  /** The scene that an absolute path leads to; null for the owner's own. */
  readonly sceneNamed: string | null;
  /** Its arguments, where all are literals; undefined where they must be read. */
  readonly constant: Values | undefined;

  constructor(
    readonly owner: Instance,
    readonly row: number,
    readonly decl: WiringBinding,
  ) {
    const spawned = owner.copy !== null;
    const { to, args } = decl;
    const { file } = owner.scene;
    const at = file.bindings.receiver[row];
    this.action = file.bindings.action[row];
    const isPlaced = at >= 0 && this.action >= 0 && owner.scene.spawned[at] === 0;
    this.receiver = isPlaced ? placedIn(owner.scene, at) : null;
    this.sceneNamed = 'at' in to && to.at.includes(':') ? to.at.slice(0, to.at.indexOf(':')) : null;
    const isConstant = args === undefined || Object.values(args).every((arg) => isLiteral(arg));
    this.constant = isConstant ? evaluate(args, NONE, owner) : undefined;
    this.fromInside = spawned && 'at' in decl.from && staysInside(decl.from.at);
    this.toInside = spawned && 'at' in decl.to && staysInside(decl.to.at);
  }
  /** When it took hold, on the clock of binding; −1 if it has not. */
  get since(): number {
    if (this.decl.bind === 'start') return this.owner.started;
    return this.owner.copy ? this.owner.copy.born : this.owner.scene.since;
  }
  towards(sender: Instance | null): Hold {
    if (this.since < 0 || (this.owner.gone && this.decl.release !== 'never')) return 'not';
    return this.released?.has(sender) ? 'released' : 'holds';
  }
  release(sender: Instance | null): void {
    (this.released ??= new Set()).add(sender);
  }
}
function staysInside(path: string): boolean {
  return !path.includes(':') && !path.includes('~');
}

/** A delivery of which nothing depends on the state of play, as long as nobody comes, goes, sleeps or wakes. */
export interface Sure {
  bound: Bound;
  instance: Instance;
  action: number;
  name: string;
  args: Values;
  tally: Tally;
  /** Of an action whose effects are left to the game nothing needs to be counted. */
  hasEffects: boolean;
}
/**
 * All that a raise of an event of an instance brings, where each delivery is sure and due at once. It is queued as one
 * thing, and made once for as long as nothing changes: a raise allocates nothing then.
 */
export interface Burst {
  kind: 'burst';
  /** For what count of changes it was judged. */
  changes: number;
  /** Null where something must be decided at each raise. */
  sure: readonly Sure[] | null;
  /** Whether it is sure that a raise brings these, whoever raises it. */
  isFree: boolean;
}
