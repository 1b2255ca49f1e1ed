import type { Expansion } from '../expand/expansion.js';
import { BLOCKED, resolveByText } from '../expand/resolve.js';
import { overridesOf } from '../expand/values.js';
import { boundNodes } from '../graph/bound.js';
import { isEvent, type Graph } from '../graph/graph.js';
import { mutedBindings } from '../graph/plans.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Asset, Binding, Value } from '../project/types.js';
import { IntList } from '../util/int-list.js';
import { suspects, type EventQuestion, type TakeEvent } from './blocks.js';
import type { Wording } from './wording.js';
import type { Kept } from './kept.js';
import { thresholds, type Thresholds } from './policy.js';
import type { Besides } from './touched.js';

/** What the audit stands on: the graph, and questions about instances and bindings that need no walk through it. */
export class AuditGround {
  readonly x: Expansion;
  readonly index: ProjectIndex;
  readonly limits: Thresholds;

  constructor(
    readonly g: Graph,
    /** ISO date. */
    readonly today: string,
    /** What was found before the last edit and still holds; null: nothing is kept. */
    private readonly kept: Kept | null = null,
  ) {
    this.x = g.x;
    this.index = g.x.index;
    this.limits = thresholds(this.index.project.policy);
  }

  /** How findings were put into words in the last audit; addresses are the same as long as only bindings change. */
  get wording(): Wording {
    return (this.kept?.placed.get('wording') as Wording | undefined) ?? new Map();
  }
  set wording(now: Wording) {
    this.kept?.placed.set('wording', now);
  }
  /** Works a thing out for one asset or binding, or takes it over if that is the very same as before the last edit. */
  perAuthored<T extends object>(name: string, thing: Asset | Binding, make: () => T): T {
    if (!this.kept) return make();
    const { authored } = this.kept;
    let known = authored.get(name);
    if (!known) authored.set(name, (known = new WeakMap<object, unknown>()));
    let answer = known.get(thing) as T | undefined;
    if (answer === undefined) known.set(thing, (answer = make()));
    return answer;
  }
  /** Works a thing out for every asset; those whose answers do not hold over are worked out together. */
  perAsset<T extends object>(name: string, make: (missing: readonly AssetIndex[]) => T[]): T[] {
    const { assets } = this.index;
    const missing = assets.filter((a) => !this.kept?.authored.get(name)?.has(a.decl));
    const made = new Map(make(missing).map((answer, i) => [missing[i], answer]));
    return assets.map((a) => this.perAuthored(name, a.decl, () => made.get(a)!));
  }
  /** Works a thing out that bindings have no part in, but declarations and placements, and what is said besides. */
  oncePlaced<T>(name: string, make: () => T, besides?: Besides): T {
    if (!this.kept) return this.once(name, make);
    const { placed } = this.kept;
    if (besides) this.kept.note(name, besides);
    if (!placed.has(name)) placed.set(name, make());
    return placed.get(name) as T;
  }
  /** Calls `take` for the bound events of which a question says yes, in order. */
  eachSuspect(question: EventQuestion, take: TakeEvent): void {
    let known = this.kept?.blocks.get(question.name);
    if (!known) {
      known = [];
      this.kept?.blocks.set(question.name, known);
      if (question.besides) this.kept?.note(question.name, question.besides);
    }
    for (const node of suspects(this, question, known)) {
      const i = this.g.instanceOf[node];
      take(node, i, node - this.x.nodeBase[i]);
    }
  }
  /** Bindings of which a test says yes, with their numbers in their owners. The test may look at the binding alone. */
  bindingsWhere(name: string, test: (b: Binding) => boolean): { owner: AssetIndex; at: number }[] {
    const found: { owner: AssetIndex; at: number }[] = [];
    for (const owner of this.index.assets) {
      if (owner.bindings.length === 0) continue;
      const own = this.perAuthored(name, owner.decl, () => numbersWhere(owner.bindings, test));
      for (const at of own) found.push({ owner, at });
    }
    return found;
  }

  private memo = new Map<string, unknown>();
  /** Works a thing out at its first use. Whoever asks in a loop keeps the answer outside of it. */
  protected once<T>(name: string, make: () => T): T {
    if (!this.memo.has(name)) this.memo.set(name, make());
    return this.memo.get(name) as T;
  }

  private readonly byPath: Map<string, number>[] = [];
  /** The asset that a path of an owner names by the text alone; negative if none. Each path is resolved once. */
  assetAtPath(owner: number, path: string): number {
    // Most paths are the name of one placement of the owner.
    if (path === '.') return owner;
    const asset = this.index.assets[owner];
    const slot = asset.placementAt.get(path);
    if (slot !== undefined) {
      const placed = asset.placed[slot];
      return placed < 0 || placed === owner ? BLOCKED : placed;
    }
    const known = (this.byPath[owner] ??= new Map<string, number>());
    let at = known.get(path);
    if (at === undefined) known.set(path, (at = resolveByText(this.index, this.x.standIns, owner, path)));
    return at;
  }
  /** For each asset its number of instances. */
  get copies(): Int32Array {
    return this.oncePlaced('copies', () => {
      const copies = new Int32Array(this.index.assets.length);
      for (const asset of this.x.asset) copies[asset]++;
      return copies;
    });
  }
  private lists: Int32Array[] | null = null;
  private get byAsset(): Int32Array[] {
    return (this.lists ??= this.oncePlaced('byAsset', () => {
      const lists = [...this.copies].map((n) => new Int32Array(n));
      const next = new Int32Array(lists.length);
      for (let i = 0; i < this.x.count; i++) lists[this.x.asset[i]][next[this.x.asset[i]]++] = i;
      return lists;
    }));
  }
  /** All instances of an asset, in expansion order. */
  instancesOf(asset: number): Int32Array {
    return this.byAsset[asset];
  }
  /** All instances that one authored placement yields. */
  instancesOfPlacement(asset: number, slot: number): number[] {
    const { x } = this;
    return [...this.instancesOf(asset)].map((i) => x.children[x.childBase[i] + slot]).filter((i) => i >= 0);
  }
  overridesOf(instance: number): Record<string, Value> {
    return overridesOf(this.x, instance) ?? {};
  }
  private mutes: Uint8Array | null = null;
  /** For each asset 1 if some placement mutes bindings of it; most are muted nowhere. */
  private get mutedSomewhere(): Uint8Array {
    if (this.mutes) return this.mutes;
    const mutes = new Uint8Array(this.index.assets.length);
    for (const { placements, placed } of this.index.assets) {
      placements.forEach((p, slot) => {
        if (placed[slot] >= 0 && p.muted && p.muted.length > 0) mutes[placed[slot]] = 1;
      });
    }
    return (this.mutes = mutes);
  }
  /** The expanded owners in whose copy an authored binding is not muted. */
  ownersOf(asset: number, binding: number): Int32Array {
    if (this.mutedSomewhere[asset] === 0) return this.instancesOf(asset);
    const { id } = this.index.assets[asset].bindings[binding];
    return this.instancesOf(asset).filter((i) => !mutedBindings(this.x, i)?.has(id));
  }
  /** Rules pass over a binding that is disabled, or muted in every copy. */
  isJudged(asset: number, binding: number): boolean {
    if (this.index.assets[asset].bindings[binding].enabled === false) return false;
    if (this.mutedSomewhere[asset] === 0) return true;
    const instances = this.instancesOf(asset);
    if (instances.length === 0) return true;
    const { id } = this.index.assets[asset].bindings[binding];
    return instances.some((i) => !mutedBindings(this.x, i)?.has(id));
  }

  /** For each event 1 if a bind or publish edge leaves it; for each action 1 if a bind or hear edge enters it. */
  get bound(): Uint8Array {
    return this.once('bound', () => boundNodes(this.g));
  }
  /** Whether it is bound or driven, also by a binding whose other end is missing: that is one fault, with one finding. */
  isBoundAnyway(node: number): boolean {
    return this.bound[node] === 1 || this.g.countsAsBound[node] > 0;
  }

  /** Every event that something outside the wiring raises, of instances that are not spawned: nodes, ascending. */
  get outsideEvents(): Int32Array {
    return this.oncePlaced('outsideEvents', () => {
      const { x } = this;
      const nodes = new IntList();
      for (let i = 0; i < x.count; i++) {
        if (x.isSpawned(i)) continue;
        const { events } = x.assetOf(i);
        for (let e = 0; e < events.length; e++) {
          if (events[e].cause.type !== 'raised') nodes.push(x.nodeBase[i] + e);
        }
      }
      return nodes.toArray();
    });
  }
  isEvent(node: number): boolean {
    return isEvent(this.g, node);
  }
}

function numbersWhere<T>(items: readonly T[], test: (item: T) => boolean): readonly number[] {
  const numbers: number[] = [];
  for (let i = 0; i < items.length; i++) if (test(items[i])) numbers.push(i);
  return numbers;
}
