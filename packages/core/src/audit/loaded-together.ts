import type { AssetIndex } from '../project/index-project.js';
import type { AnalysisInputs } from './inputs.js';

/** Which scenes can be loaded together. Made once for each state of the project. */
export function loadedTogether(inputs: AnalysisInputs): LoadedTogether {
  return inputs.once('loaded together', () => new LoadedTogether(inputs));
}

/** Cost: the load sets. */
export class LoadedTogether {
  /** For each scene the load sets that hold it, ascending. */
  private readonly setsOf = new Map<string, Set<number>>();
  private readonly names: readonly string[];

  constructor(private readonly inputs: AnalysisInputs) {
    const { loadSets = [] } = inputs.index.project;
    this.names = loadSets.map((set) => set.name);
    for (const [set, { scenes }] of loadSets.entries()) {
      for (const scene of scenes) {
        const sets = this.setsOf.get(scene);
        if (sets) sets.add(set);
        else this.setsOf.set(scene, new Set([set]));
      }
    }
  }
  /** Those of some scenes that can be loaded beside another of them. Cost: the scenes and the load sets that hold them. */
  meeting(scenes: readonly number[]): Set<number> {
    const { assets } = this.inputs.index;
    if (scenes.length > 1 && scenes.some((s) => assets[s].decl.persistent === true)) return new Set(scenes);
    const held = new Map<number, number>();
    for (const scene of scenes)
      for (const set of this.of(assets[scene])) held.set(set, (held.get(set) ?? 0) + 1);
    return new Set(scenes.filter((scene) => [...this.of(assets[scene])].some((set) => held.get(set)! > 1)));
  }
  /** Whether a load set holds both of two scenes, of which the second is not always loaded. Cost: the load sets of either. */
  hold(one: AssetIndex, other: AssetIndex): boolean {
    if (one.decl.persistent === true) return this.of(other).size > 0;
    const [few, many] = [this.of(one), this.of(other)].sort((a, b) => a.size - b.size);
    for (const set of few) if (many.has(set)) return true;
    return false;
  }
  /** The first load set that holds one of two scenes without the other, by its name. Cost: the load sets of either. */
  without(other: AssetIndex, one: AssetIndex): string | undefined {
    const others = this.of(other);
    for (const set of one.decl.persistent === true ? this.names.keys() : this.of(one))
      if (!others.has(set)) return this.names[set];
    return undefined;
  }
  private of({ decl }: AssetIndex): ReadonlySet<number> {
    return this.setsOf.get(decl.id) ?? NONE;
  }
}
const NONE: ReadonlySet<number> = new Set();
