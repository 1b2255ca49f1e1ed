import { FORMAT, type WiringScene } from '@oquel/runtime';
import { BEGINS_ASLEEP, type Expansion } from '../expand/expansion.js';
import type { PeerRoles } from '../expand/peers.js';
import type { PathTable } from '../expand/resolve.js';
import { initialValue, overridesOf } from '../expand/values.js';
import { mutedBindings } from '../graph/resolver.js';
import type { Binding, Value } from '../project/types.js';
import { isLiteral } from '../project/value.js';

/** What all scenes of a project have in common while they are compiled. */
export interface SceneInputs {
  x: Expansion;
  hash: string;
  /** For each scene's asset its instance. */
  roots: ReadonlyMap<number, number>;
  /** For each asset, its paths ready to be resolved. */
  paths: readonly PathTable[];
  /** For each asset, the numbers of its bindings that are on. */
  enabled: readonly (readonly number[])[];
  /** Null without peers. */
  peerRoles: PeerRoles | null;
}

/** Compiles one scene: its instances, and the expanded bindings that they have. Linear in both. */
export function compileScene(inputs: SceneInputs, root: number): WiringScene {
  const { x, hash } = inputs;
  const end = x.end[root];
  const scene: WiringScene = {
    format: FORMAT,
    hash,
    scene: x.assetOf(root).decl.id,
    asset: [],
    parent: [],
    name: [],
    asleep: [],
    values: [],
    spawner: [],
    others: [],
    keys: [],
    bindings: { owner: [], binding: [], sender: [], event: [], receiver: [], action: [] },
  };
  for (let i = root; i < end; i++) {
    const local = i - root;
    scene.asset.push(x.asset[i]);
    scene.parent.push(x.parent[i] < 0 ? -1 : x.parent[i] - root);
    scene.name.push(x.segment(i));
    if ((x.flags[i] & BEGINS_ASLEEP) !== 0) scene.asleep.push(local);
    const overrides = overridesOf(x, i);
    if (overrides && Object.keys(overrides).length > 0) scene.values.push([local, overrides]);
    if (x.holder[i] !== i) scene.spawner.push([local, x.holder[i] - root]);
  }
  if (inputs.peerRoles) scene.peers = peersOf(x, inputs.peerRoles, root);
  wire(inputs, root, scene);
  return scene;
}

function peersOf(x: Expansion, { authority, operator }: PeerRoles, root: number): WiringScene['peers'] {
  const end = x.end[root];
  const named: [number, number][] = [];
  for (let i = root; i < end; i++) {
    const placement = x.placementOf(i);
    const bits = (placement?.authority === undefined ? 0 : 1) + (placement?.operator === undefined ? 0 : 2);
    if (bits > 0) named.push([i - root, bits]);
  }
  return {
    authority: [...authority.subarray(root, end)],
    operator: [...operator.subarray(root, end)],
    named,
  };
}

/** Writes the expanded bindings in running order. One whose sender or event is not there never serves, and is left out. */
function wire(inputs: SceneInputs, root: number, scene: WiringScene): void {
  const { x, paths, enabled } = inputs;
  const { bindings: rows } = scene;
  const ends = new Ends(x, root, scene.others);
  for (let owner = root; owner < x.end[root]; owner++) {
    const asset = x.assetOf(owner);
    const on = enabled[asset.at];
    if (on.length === 0) continue;
    const muted = mutedBindings(x, owner);
    const table = paths[asset.at];
    for (let b = 0; b < on.length; b++) {
      const binding = asset.bindings[on[b]];
      if (muted?.has(binding.id)) continue;
      let [sender, event] = [-1, -1];
      if ('at' in binding.from) {
        sender = table.get(binding.from.at).resolve(owner);
        event = sender < 0 ? -1 : (x.assetOf(sender).eventAt.get(binding.from.event) ?? -1);
        if (event < 0) continue;
      }
      const [receiver, action] = targetOf(x, table, owner, binding);
      const key = receiver < 0 ? undefined : keyAway(x, root, binding, receiver);
      if (key !== undefined) scene.keys.push([rows.owner.length, key]);
      rows.owner.push(owner - root);
      rows.binding.push(b);
      rows.sender.push(ends.numberOf(sender));
      rows.event.push(event);
      rows.receiver.push(ends.numberOf(receiver));
      rows.action.push(action);
    }
  }
}

/** The key by which a receiver in another scene hears, as it begins; undefined where nothing is read from one. */
function keyAway(x: Expansion, root: number, { from }: Binding, receiver: number): Value | undefined {
  if (!('channel' in from) || from.key === undefined || isLiteral(from.key)) return undefined;
  const isAway = receiver < root || receiver >= x.end[root];
  return isAway && !x.isSpawned(receiver) ? initialValue(x, receiver, from.key.property) : undefined;
}

function targetOf(x: Expansion, table: PathTable, owner: number, { to }: Binding): [number, number] {
  if ('channel' in to) return [-1, -1];
  if ('every' in to) {
    const asset = x.index.assetAt.get(to.every);
    return [-1, asset === undefined ? -1 : (x.index.assets[asset].actionAt.get(to.action) ?? -1)];
  }
  const receiver = table.get(to.at).resolve(owner);
  return receiver < 0 ? [-1, -1] : [receiver, x.assetOf(receiver).actionAt.get(to.action) ?? -1];
}

/** Numbers of instances as a scene's file has them: its own, or −2 − the place in its list of others. */
class Ends {
  private readonly places = new Map<number, number>();
  constructor(
    private readonly x: Expansion,
    private readonly root: number,
    private readonly others: string[],
  ) {}

  numberOf(instance: number): number {
    if (instance < 0) return -1;
    if (instance >= this.root && instance < this.x.end[this.root]) return instance - this.root;
    let place = this.places.get(instance);
    if (place === undefined) {
      place = this.others.push(this.x.address(instance)) - 1;
      this.places.set(instance, place);
    }
    return -2 - place;
  }
}
