import type { Value, WiringAsset, WiringBinding, WiringProject, WiringScene } from './format.js';
import type { Tally } from './tally.js';

/** What is asked of assets again and again, by the asset's number. */
export interface AssetTable {
  readonly decl: WiringAsset;
  readonly eventAt: ReadonlyMap<string, number>;
  /** Names of events; null where there are so many that looking through them would take longer than the map. */
  readonly few: readonly string[] | null;
  readonly actionAt: ReadonlyMap<string, number>;
  readonly propertyAt: ReadonlyMap<string, number>;
  /** It has start events, or bindings that take hold when it starts. */
  readonly starts: boolean;
  readonly timers: readonly number[];
  /** It has a binding that is never let go. */
  readonly clings: boolean;
}
export function assetTables(project: WiringProject): AssetTable[] {
  const numbers = (list: readonly { name: string }[]): Map<string, number> =>
    new Map(list.map(({ name }, i) => [name, i]));
  return project.assets.map((decl) => ({
    decl,
    eventAt: numbers(decl.events),
    few: decl.events.length <= FEW ? decl.events.map((e) => e.name) : null,
    actionAt: numbers(decl.actions),
    propertyAt: numbers(decl.properties),
    starts: decl.events.some((e) => e.cause === 'start') || decl.bindings.some((b) => b.bind === 'start'),
    timers: decl.events.flatMap((e, i) => (e.cause === 'timer' ? [i] : [])),
    clings: decl.bindings.some((b) => b.release === 'never'),
  }));
}

const FEW = 8;

/** The number of an event; undefined for none. */
export function eventNumber({ few, eventAt }: AssetTable, name: string): number | undefined {
  if (few === null) return eventAt.get(name);
  for (let i = 0; i < few.length; i++) if (few[i] === name) return i;
  return undefined;
}

/**
 * A scene's file made ready: linear in its instances and bindings. Which instances, copies and bindings there are in play is kept
 * here too, whatever they are.
 */
export class SceneOf<Instance, Copy, Bound> {
  readonly count: number;
  /** For each instance, one past the last one that stands in it. */
  readonly end: Int32Array;
  /** For each instance whether it is a template, or in one. */
  readonly spawned: Uint8Array;
  readonly asleep: Uint8Array;
  /** The instance that contains each; −1 for the scene and for a template. */
  readonly container: Int32Array;
  readonly values: ReadonlyMap<number, Readonly<Record<string, Value>>>;
  readonly keys: ReadonlyMap<number, Value>;
  /** For each instance its first row of bindings; one entry more at the end. */
  readonly firstRow: Int32Array;
  /** For each instance its first event among all events; one entry more at the end. */
  readonly firstEvent: Int32Array;
  /** For each instance its first action among all actions. */
  private readonly firstAction: Int32Array;
  private readonly tallies: (Tally | undefined)[] = [];
  /** Rows by event, as `rowsOn[e]` up to `rowsOn[e + 1]` in `rows`. */
  readonly rowsOn: Int32Array;
  readonly rows: Int32Array;
  /** Rows that listen to events of other scenes, by the place of the sender in `others`. */
  readonly foreign = new Map<number, number[]>();
  /** Rows that hear a channel. */
  readonly hearers = new Map<string, number[]>();
  readonly placed: (Instance | undefined)[] = [];
  /** Copies of a template that still count, and all that were ever born, in order of birth. */
  readonly copies = new Map<number, Copy[]>();
  readonly born = new Map<number, Copy[]>();
  /** What is bound to an event, where no copy has a part in it; null where it must be gathered each time. */
  readonly settled = new Map<number, readonly Bound[]>();
  /** Its place in expansion order among scenes. */
  readonly order: number;
  /** When it was loaded, on the clock of binding. */
  since = 0;
  loaded = false;

  constructor(
    project: WiringProject,
    readonly tables: readonly AssetTable[],
    readonly file: WiringScene,
  ) {
    const { asset, parent, bindings } = file;
    this.order = project.scenes.findIndex((s) => s.scene === file.scene);
    this.count = asset.length;
    this.end = new Int32Array(this.count);
    this.spawned = new Uint8Array(this.count);
    this.asleep = new Uint8Array(this.count);
    this.container = new Int32Array(this.count);
    this.firstEvent = new Int32Array(this.count + 1);
    this.firstAction = new Int32Array(this.count + 1);
    for (let i = 0; i < this.count; i++) {
      const isTemplate = file.name[i].startsWith('~');
      this.container[i] = isTemplate ? -1 : parent[i];
      if (isTemplate || (parent[i] >= 0 && this.spawned[parent[i]] === 1)) this.spawned[i] = 1;
      const { events, actions } = tables[asset[i]].decl;
      this.firstEvent[i + 1] = this.firstEvent[i] + events.length;
      this.firstAction[i + 1] = this.firstAction[i] + actions.length;
    }
    for (let i = this.count - 1; i >= 0; i--) {
      if (this.end[i] === 0) this.end[i] = i + 1;
      if (parent[i] >= 0) this.end[parent[i]] = Math.max(this.end[parent[i]], this.end[i]);
    }
    for (const i of file.asleep) this.asleep[i] = 1;
    this.values = new Map(file.values);
    this.keys = new Map(file.keys);
    this.firstRow = new Int32Array(this.count + 1);
    for (const owner of bindings.owner) this.firstRow[owner + 1]++;
    for (let i = 0; i < this.count; i++) this.firstRow[i + 1] += this.firstRow[i];
    this.rowsOn = new Int32Array(this.firstEvent[this.count] + 1);
    const { sender, event } = bindings;
    let local = 0;
    for (let row = 0; row < sender.length; row++) {
      if (sender[row] >= 0) {
        this.rowsOn[this.firstEvent[sender[row]] + event[row] + 1]++;
        local++;
      } else if (sender[row] === -1) {
        const { from } = this.declOf(row);
        if ('channel' in from) listAt(this.hearers, from.channel).push(row);
      } else listAt(this.foreign, -2 - sender[row]).push(row);
    }
    for (let e = 0; e + 1 < this.rowsOn.length; e++) this.rowsOn[e + 1] += this.rowsOn[e];
    this.rows = new Int32Array(local);
    const next = this.rowsOn.slice();
    for (let row = 0; row < sender.length; row++) {
      if (sender[row] >= 0) this.rows[next[this.firstEvent[sender[row]] + event[row]]++] = row;
    }
  }

  tableOf(i: number): AssetTable {
    return this.tables[this.file.asset[i]];
  }
  declOf(row: number): WiringBinding {
    const { owner, binding } = this.file.bindings;
    return this.tables[this.file.asset[owner[row]]].decl.bindings[binding[row]];
  }
  /** How often an action of an instance was performed lately; copies count with their template. */
  tallyOf(i: number, action: number): Tally {
    return (this.tallies[this.firstAction[i] + action] ??= { instant: 0, times: 0 });
  }
  /** The template that an instance is in, or is. */
  templateOver(i: number): number {
    let at = i;
    while (!this.file.name[at].startsWith('~')) at = this.file.parent[at];
    return at;
  }
  private spawners: Map<number, number> | null = null;
  /** The template that an instance makes copies of when it spawns an asset; −1 for none. */
  templateFor(i: number, asset: number): number {
    this.spawners ??= new Map(this.file.spawner);
    return this.childOf(this.spawners.get(i) ?? i, `~${this.tables[asset].decl.id}`);
  }
  private children: Map<string, number> | null = null;
  /** What stands in an instance under a name; −1 for nothing. */
  childOf(i: number, name: string): number {
    if (!this.children) {
      this.children = new Map();
      for (let c = 1; c < this.count; c++)
        this.children.set(`${this.file.parent[c]}/${this.file.name[c]}`, c);
    }
    return this.children.get(`${i}/${name}`) ?? -1;
  }
  private byAsset: (number[] | undefined)[] | null = null;
  /** All instances of an asset, templates too, in expansion order. */
  instancesOf(asset: number): readonly number[] {
    if (!this.byAsset) {
      this.byAsset = [];
      for (let i = 0; i < this.count; i++) (this.byAsset[this.file.asset[i]] ??= []).push(i);
    }
    return this.byAsset[asset] ?? [];
  }
  /** `scene:cabin-3/lamp`; the scene itself is `scene:.`. */
  addressOf(i: number): string {
    const names: string[] = [];
    for (let at = i; at > 0; at = this.file.parent[at]) names.push(this.file.name[at]);
    return `${this.file.scene}:${names.reverse().join('/') || '.'}`;
  }
  /** The value of a property before any effect, of what is placed; undefined if it is not declared. */
  initialOf(i: number, property: string): Value | undefined {
    const { decl, propertyAt } = this.tableOf(i);
    const at = propertyAt.get(property);
    if (at === undefined) return undefined;
    const values = this.values.get(i);
    return values && Object.hasOwn(values, property) ? values[property] : decl.properties[at].default;
  }
}

export function listAt<K, T>(map: Map<K, T[]>, key: K): T[] {
  let list = map.get(key);
  if (!list) map.set(key, (list = []));
  return list;
}
