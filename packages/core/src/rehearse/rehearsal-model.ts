import { fieldNamed } from '../project/fields.js';
import { sceneInstances } from '../graph/resolver.js';
import { ASLEEP_AT_START, type Expansion } from '../expand/expansion.js';
import { peerRolesOf, type PeerRoles } from '../expand/peers.js';
import { PathTable } from '../expand/resolve.js';
import { Selector } from '../expand/select.js';
import { ValueTable } from '../expand/values.js';
import { parsePath } from '../project/path.js';
import type { AssetIndex } from '../project/index-project.js';
import type { LoadSet } from '../project/types.js';
import { namedArgs } from './named-args.js';
import type { CompiledBinding, Target } from './compiled-binding.js';

/** The event of a change; whether it carries the new value. */
interface ChangeEvent {
  event: number;
  carries: boolean;
}

/** What is the same in every run of one expanded project; parts are made when first asked for. */
export class RehearsalModel {
  readonly values = new ValueTable();
  readonly selector: Selector;
  readonly scenes: ReadonlyMap<number, number>;
  /** For each asset: it has start events, or code bindings that take hold when it starts. */
  readonly starts: readonly boolean[];
  /** For each asset the numbers of its timer events. */
  readonly timers: readonly (readonly number[])[];
  /** For each asset: it has a code binding that is never let go. */
  readonly clings: readonly boolean[];
  /** For each asset and property number the events of its changes; null for none. */
  readonly changes: readonly (readonly (readonly ChangeEvent[])[] | null)[];
  /** The instance that contains an instance; −1 for a scene and a stand-in. */
  readonly container: Int32Array;
  /** How many there are. */
  readonly peers: number;
  private readonly paths: (PathTable | undefined)[] = [];
  private readonly compiledBindings = new Map<number, CompiledBinding>();
  private knownRoles: PeerRoles | null = null;

  constructor(readonly x: Expansion) {
    const { assets } = x.index;
    this.peers = x.index.project.peers?.length ?? 0;
    this.selector = new Selector(x, this.values);
    this.scenes = sceneInstances(x);
    const byCode = (a: AssetIndex, test: (b: AssetIndex['bindings'][number]) => boolean): boolean =>
      a.bindings.some((b) => b.origin === 'code' && test(b));
    this.starts = assets.map(
      (a) => a.events.some((e) => e.cause.type === 'start') || byCode(a, (b) => b.bind === 'start'),
    );
    this.timers = assets.map((a) => a.events.flatMap((e, i) => (e.cause.type === 'timer' ? [i] : [])));
    this.changes = assets.map(({ events, properties }) => {
      if (events.every((e) => e.cause.type !== 'change')) return null;
      return properties.map(({ name }) =>
        events.flatMap(({ cause, payload }, event) =>
          cause.type === 'change' && cause.property === name
            ? [{ event, carries: fieldNamed(payload, name) !== undefined }]
            : [],
        ),
      );
    });
    this.container = Int32Array.from({ length: x.count }, (_, i) => x.containerOf(i));
    this.clings = assets.map((a) => byCode(a, (b) => b.release === 'never'));
  }

  get peerRoles(): PeerRoles {
    return (this.knownRoles ??= peerRolesOf(this.x));
  }
  /** The instance that stands in for the copies that an instance is in. Only for spawned ones. Cost: its depth. */
  standInOver(instance: number): number {
    let at = instance;
    while (!this.x.isStandIn(at)) at = this.x.parent[at];
    return at;
  }
  beginsAwake(instance: number): boolean {
    return (this.x.flags[instance] & ASLEEP_AT_START) === 0;
  }

  /** For each scene's instance whether it takes part; null for a load set that is not there. */
  scenesOf(loadSet: string | undefined): number[] | null {
    const { project, assets } = this.x.index;
    let set: LoadSet | undefined;
    if (loadSet !== undefined) {
      set = project.loadSets?.find((s) => s.name === loadSet);
      if (!set) return null;
    }
    return [...this.scenes]
      .filter(([asset]) => {
        const { decl } = assets[asset];
        return !set || decl.persistent === true || set.scenes.includes(decl.id);
      })
      .map(([, instance]) => instance);
  }

  pathsOf(asset: number): PathTable {
    return (this.paths[asset] ??= new PathTable(this.x, this.scenes, asset));
  }
  /** What an expanded binding delivers to. */
  compiledBinding(number: number): CompiledBinding {
    let compiled = this.compiledBindings.get(number);
    if (!compiled) this.compiledBindings.set(number, (compiled = this.compileBinding(number)));
    return compiled;
  }
  private compileBinding(number: number): CompiledBinding {
    const { x } = this;
    const owner = x.ownerOf(number);
    const binding = x.bindingOf(number);
    const code = binding.origin === 'code';
    return {
      number,
      binding,
      args: namedArgs(binding.args),
      limit: binding.limit ?? Infinity,
      conditions: binding.if ?? null,
      target: this.targetOf(owner, binding.to),
      sameCopy: 'at' in binding.from && this.staysInside(owner, binding.from.at),
      delay: microseconds(binding.delay ?? 0),
      atStart: code && binding.bind === 'start',
      release: code ? (binding.release ?? 'own') : 'own',
    };
  }
  private targetOf(owner: number, to: CompiledBinding['binding']['to']): Target {
    const { x } = this;
    const { assets, assetAt, channelAt } = x.index;
    if ('channel' in to) return { kind: 'channel', channel: to.channel, known: channelAt.has(to.channel) };
    if ('every' in to) {
      const asset = assetAt.get(to.every) ?? -1;
      const action = asset < 0 ? -1 : (assets[asset].actionAt.get(to.action) ?? -1);
      const property = to.match === undefined || to.match === 'all' ? null : to.match.property;
      const matchable = property === null || (asset >= 0 && assets[asset].propertyAt.has(property));
      return { kind: 'every', asset, known: asset >= 0 && action >= 0 && matchable, action };
    }
    const base = this.pathsOf(x.asset[owner]).get(to.at).resolve(owner);
    const scene = parsePath(to.at).scene;
    return {
      kind: 'path',
      base,
      scene: scene === null ? -1 : (this.scenes.get(assetAt.get(scene) ?? -1) ?? -1),
      sameCopy: this.staysInside(owner, to.at),
      action: base < 0 ? -1 : (x.assetOf(base).actionAt.get(to.action) ?? -1),
    };
  }
  private staysInside(owner: number, path: string): boolean {
    if (!this.x.isSpawned(owner)) return false;
    const { scene, segments } = parsePath(path);
    return scene === null && !segments.some((s) => s.startsWith('~'));
  }
}

/** A path as it is written, joined to its owner's address; an absolute one stands alone. */
export function joined(owner: string, path: string): string {
  if (path.includes(':')) return path;
  if (path === '.') return owner;
  return owner.endsWith(':.') ? `${owner.slice(0, -1)}${path}` : `${owner}/${path}`;
}

/** Whole microseconds of a time in seconds: rounded on the double, as everything that keeps time here. */
export function microseconds(seconds: number): number {
  return Math.round(seconds * 1e6);
}
