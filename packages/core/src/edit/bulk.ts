import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding, KeyExpr } from '../project/types.js';
import type { Change } from './change.js';

/** One change that is made to many bindings. A null takes the option away. */
export type BulkChange =
  | { part: 'enabled'; value: boolean }
  | { part: 'limit'; value: number | null }
  | { part: 'delay'; value: number | null }
  | { part: 'action'; value: string }
  | { part: 'receiver'; value: string }
  | { part: 'key'; value: KeyExpr | null }
  | { part: 'remove' };

export interface Row {
  owner: AssetIndex;
  binding: Binding;
}
export interface BulkStep extends Row {
  /** Null if it is removed. */
  after: Binding | null;
}
export interface BulkPlan {
  steps: BulkStep[];
  /** Those that have no such part. */
  left: (Row & { why: string })[];
  changes: Change[];
}

/** What one change does to each of many bindings; those that come out the same are passed over. Linear. */
export function planBulk(rows: readonly Row[], change: BulkChange): BulkPlan {
  const plan: BulkPlan = { steps: [], left: [], changes: [] };
  for (const { owner, binding } of rows) {
    const asset = owner.decl.id;
    if (change.part === 'remove') {
      plan.steps.push({ owner, binding, after: null });
      plan.changes.push({ op: 'remove', list: 'bindings', asset, id: binding.id });
      continue;
    }
    const after = changed(binding, change);
    if (typeof after === 'string') plan.left.push({ owner, binding, why: after });
    else if (JSON.stringify(after) !== JSON.stringify(binding)) {
      plan.steps.push({ owner, binding, after });
      plan.changes.push({ op: 'replace', list: 'bindings', asset, id: binding.id, item: after });
    }
  }
  return plan;
}

/** The binding after the change, or why it has no such part. */
function changed(binding: Binding, change: Exclude<BulkChange, { part: 'remove' }>): Binding | string {
  const { from, to } = binding;
  switch (change.part) {
    case 'enabled':
      return withOption(binding, 'enabled', change.value ? undefined : false);
    case 'limit':
      return withOption(binding, 'limit', change.value ?? undefined);
    case 'delay':
      return withOption(binding, 'delay', change.value === 0 ? undefined : (change.value ?? undefined));
    case 'action':
      return 'channel' in to ? 'it tells a channel' : { ...binding, to: { ...to, action: change.value } };
    case 'receiver':
      return 'at' in to ? { ...binding, to: { ...to, at: change.value } } : 'it does not name one receiver';
    case 'key': {
      const end = 'channel' in to ? ('to' as const) : 'channel' in from ? ('from' as const) : null;
      if (!end) return 'it goes over no channel';
      const { key: _, ...rest } = binding[end] as { channel: string; key?: KeyExpr };
      return { ...binding, [end]: change.value === null ? rest : { ...rest, key: change.value } };
    }
  }
}

function withOption<K extends 'enabled' | 'limit' | 'delay'>(
  binding: Binding,
  option: K,
  value: Binding[K] | undefined,
): Binding {
  const { [option]: _, ...rest } = binding;
  return value === undefined ? (rest as Omit<Binding, K> & Binding) : { ...binding, [option]: value };
}

/** Changes that put bindings off; those that are off already or not there are left out. */
export function mutingAll(
  index: ProjectIndex,
  bindings: readonly { asset: string; binding: string }[],
): Change[] {
  return bindings.flatMap(({ asset, binding: id }): Change[] => {
    const owner = index.assets[index.assetAt.get(asset) ?? -1];
    const item = owner?.bindings[owner.bindingAt.get(id) ?? -1];
    if (!item || item.enabled === false) return [];
    return [{ op: 'replace', list: 'bindings', asset, id, item: { ...item, enabled: false } }];
  });
}
