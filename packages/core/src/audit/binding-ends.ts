import { EndsBetween, type BindingEnds } from '../edit/binding-ends.js';
import { MISSING } from '../expand/resolve.js';
import { judgeEnds } from '../graph/faults.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';

/** What the authored text of a binding leads to, with what is at fault. */
export interface JudgedEnds extends BindingEnds {
  /** The assets that the paths of both ends lead to, or that are selected; negative for none. */
  readonly senderAt: number;
  readonly target: number;
  /** Bits of `Fault`; 0 if both ends name something that is there. */
  readonly faults: number;
}

/** A project in which paths are resolved by their text. */
export interface TextResolver {
  readonly index: ProjectIndex;
  /** The asset that a path of an owner names; negative if none. */
  assetAtPath: (owner: number, path: string) => number;
}

/** Resolves a binding by its text alone, as rules on authored text do. Cost: its paths. */
export function judgedEnds(inputs: TextResolver, owner: AssetIndex, binding: Binding): JudgedEnds {
  const { index } = inputs;
  const { from, to } = binding;
  const senderAt = 'at' in from ? inputs.assetAtPath(owner.at, from.at) : MISSING;
  const target =
    'at' in to
      ? inputs.assetAtPath(owner.at, to.at)
      : 'every' in to
        ? (index.assetAt.get(to.every) ?? MISSING)
        : MISSING;
  return new EndsOfText(index, owner, binding, senderAt, target);
}

class EndsOfText extends EndsBetween implements JudgedEnds {
  private judged = -1;

  constructor(
    index: ProjectIndex,
    owner: AssetIndex,
    private readonly whole: Binding,
    readonly senderAt: number,
    readonly target: number,
  ) {
    const assetAt = (at: number): AssetIndex | null => (at >= 0 ? index.assets[at] : null);
    super(index, owner, whole, assetAt(senderAt), assetAt(target));
  }
  get faults(): number {
    if (this.judged < 0)
      this.judged = judgeEnds(this.index, this.owner, this.whole, this.senderAt, this.target);
    return this.judged;
  }
}
