/** What an edit touches besides the bindings that it changes. */
export interface EditScope {
  /** Authored bindings that are to be resolved again. */
  again: Set<number>;
  /** Units that are to be judged again, by number. */
  assets: Set<number>;
  /** Assets whose copies may have other values, or are others. */
  copies: Set<number>;
  bindings: Set<number>;
  events: Set<number>;
  actions: Set<number>;
  instances: Set<number>;
  areas: Set<number>;
  /** Instances and actions whose declarations expect something else; each once. */
  expecting: { instances: number[]; actions: number[] };
  /** Whether types are in use elsewhere than before. */
  hasOtherTypes: boolean;
}

export function nothing(): EditScope {
  return {
    again: new Set(),
    assets: new Set(),
    copies: new Set(),
    bindings: new Set(),
    events: new Set(),
    actions: new Set(),
    instances: new Set(),
    areas: new Set(),
    expecting: { instances: [], actions: [] },
    hasOtherTypes: false,
  };
}
