import { canonicalJson } from '../project/canonical.js';
import { conditionFaults } from '../project/condition.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding, Condition, KeyExpr } from '../project/types.js';
import { askScope } from '../wireline/check.js';
import { printConditionName } from '../wireline/conditions.js';
import type { Change } from '../edit/change.js';

/** One change that is made to many bindings. A null takes the option away. */
export type BulkChange =
  | { part: 'enabled'; value: boolean }
  | { part: 'limit'; value: number | null }
  | { part: 'delay'; value: number | null }
  | { part: 'action'; value: string }
  | { part: 'receiver'; value: string }
  | { part: 'key'; value: KeyExpr | null }
  /** Instead of what is asked, or besides it. */
  | { part: 'if'; value: readonly Condition[]; also: boolean }
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
  /** Those that have no such part, or cannot ask that. */
  left: (Row & { why: string })[];
  changes: Change[];
}

/**
 * What one change does to each of many bindings; those that come out the same are passed over. Linear in the rows, times
 * the conditions that are asked.
 */
export function planBulk(index: ProjectIndex, rows: readonly Row[], change: BulkChange): BulkPlan {
  const plan: BulkPlan = { steps: [], left: [], changes: [] };
  for (const { owner, binding } of rows) {
    const asset = owner.decl.id;
    if (change.part === 'remove') {
      plan.steps.push({ owner, binding, after: null });
      plan.changes.push({ op: 'remove', list: 'bindings', asset, id: binding.id });
      continue;
    }
    const after = changed(index, owner, binding, change);
    if (typeof after === 'string') plan.left.push({ owner, binding, why: after });
    else if (JSON.stringify(after) !== JSON.stringify(binding)) {
      plan.steps.push({ owner, binding, after });
      plan.changes.push({ op: 'replace', list: 'bindings', asset, id: binding.id, item: after });
    }
  }
  return plan;
}

/** The binding after the change, or why it has no such part. */
function changed(
  index: ProjectIndex,
  owner: AssetIndex,
  binding: Binding,
  change: Exclude<BulkChange, { part: 'remove' }>,
): Binding | string {
  const { from, to } = binding;
  switch (change.part) {
    case 'enabled':
      return withOption(binding, 'enabled', change.value ? undefined : false);
    case 'limit':
      return withOption(binding, 'limit', change.value ?? undefined);
    case 'delay':
      return withOption(binding, 'delay', change.value === 0 ? undefined : (change.value ?? undefined));
    case 'action':
      return 'channel' in to
        ? 'it publishes to a channel'
        : { ...binding, to: { ...to, action: change.value } };
    case 'receiver':
      return 'at' in to ? { ...binding, to: { ...to, at: change.value } } : 'it does not name one receiver';
    case 'key': {
      const end = 'channel' in to ? ('to' as const) : 'channel' in from ? ('from' as const) : null;
      if (!end) return 'it goes over no channel';
      const { key: _, ...rest } = binding[end] as { channel: string; key?: KeyExpr };
      return { ...binding, [end]: change.value === null ? rest : { ...rest, key: change.value } };
    }
    case 'if':
      return asking(index, owner, binding, change);
  }
}

/** What every one of many bindings can ask: `$speed`, `@calm`. Linear in the rows, and in the fields of what differs. */
export function askableByAll(index: ProjectIndex, rows: readonly Row[]): string[] {
  const names = new Map<string, readonly string[]>();
  for (const { owner, binding } of rows) {
    const scope = askScope(index, owner, binding);
    const reader = scope?.reader?.decl.id ?? '';
    const said = 'channel' in binding.from ? `#${binding.from.channel}` : binding.from.event;
    const alike = JSON.stringify([reader, said]);
    if (names.has(alike)) continue;
    const asked = [
      ...(scope?.payload ?? []).map((f) => printConditionName({ payload: f.name, is: true })),
      ...(scope?.reader?.properties ?? []).map((p) => printConditionName({ property: p.name, is: true })),
    ];
    names.set(alike, asked);
  }
  const [first = [], ...others] = [...names.values()].map((list) => new Set(list));
  return [...first].filter((name) => others.every((list) => list.has(name)));
}

/** The binding with what it is to ask; nothing is asked twice. */
function asking(
  index: ProjectIndex,
  owner: AssetIndex,
  binding: Binding,
  { value, also }: Extract<BulkChange, { part: 'if' }>,
): Binding | string {
  const scope = askScope(index, owner, binding);
  const [wrong] = scope ? conditionFaults(scope, value) : [];
  if (wrong) return wrong.words;
  const before = also ? (binding.if ?? []) : [];
  const there = new Set(before.map((c) => canonicalJson(c)));
  const all = [...before, ...value.filter((c) => !there.has(canonicalJson(c)))];
  return withOption(binding, 'if', all.length > 0 ? all : undefined);
}

function withOption<K extends 'enabled' | 'limit' | 'delay' | 'if'>(
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
