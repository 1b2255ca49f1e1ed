import type { Expansion } from '../expand/expansion.js';
import { CompiledPath } from '../expand/resolve.js';
import { Selector } from '../expand/select.js';
import { initialValue, ValueTable } from '../expand/values.js';
import type { BindingFrom, KeyExpr, SelectionTarget } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import { sceneInstances } from './resolver.js';

/** Which instances a selection takes as the project stands. */
export interface SelectedNow {
  /** Copies of the owner. */
  copies: number;
  /** Receivers over all copies, and the fewest and most in one of them. */
  total: number;
  least: number;
  most: number;
  /** Receivers in the first copy, at most {@link MAX_LISTED}. */
  first: {
    address: string;
    /** As the owner would name it; null for what lies outside of it. */ path: string | null;
  }[];
}
export const MAX_LISTED = 2000;

/**
 * The instances that `every …` of a binding of this asset selects now, by values before any effect. `null` if the
 * selected asset is not there. A key that cannot be read selects nothing.
 * Cost: the instances of both assets, and what is selected.
 */
export function selectedNow(
  x: Expansion,
  ownerAsset: number,
  from: BindingFrom,
  to: SelectionTarget,
): SelectedNow | null {
  const asset = x.index.assetAt.get(to.every);
  if (asset === undefined) return null;
  const values = new ValueTable();
  const select = new Selector(x, values);
  const sender = 'at' in from ? new CompiledPath(x, sceneInstances(x), from.at, ownerAsset) : null;
  const now: SelectedNow = { copies: 0, total: 0, least: 0, most: 0, first: [] };
  for (const owner of x.instancesOf(ownerAsset)) {
    let count = 0;
    const match = matchOf(x, values, to, sender ? sender.resolve(owner) : owner);
    if (match !== 'unreadable') {
      const { within = 'asset', spawned = false, pick = 'all' } = to;
      select.each(owner, { asset, within, spawned, pick, match }, (instance) => {
        count++;
        if (now.copies === 0 && count <= MAX_LISTED) now.first.push(listed(x, owner, instance));
      });
    }
    now.total += count;
    now.least = now.copies === 0 ? count : Math.min(now.least, count);
    now.most = Math.max(now.most, count);
    now.copies++;
  }
  return now;
}

function matchOf(
  x: Expansion,
  values: ValueTable,
  { match }: SelectionTarget,
  reader: number,
): { property: string; value: number } | null | 'unreadable' {
  if (match === undefined || match === 'all') return null;
  const key = readKey(x, match.equals, reader);
  return key === undefined ? 'unreadable' : { property: match.property, value: values.number(key) };
}
function readKey(
  x: Expansion,
  key: KeyExpr,
  reader: number,
): Exclude<KeyExpr, { property: string }> | undefined {
  if (isLiteral(key)) return key;
  return reader < 0 ? undefined : initialValue(x, reader, key.property);
}

function listed(x: Expansion, owner: number, instance: number): SelectedNow['first'][number] {
  const address = x.address(instance);
  if (instance === owner) return { address, path: '.' };
  if (instance < owner || instance >= x.end[owner]) return { address, path: null };
  const own = x.address(owner);
  const path = address.slice(own.endsWith(':.') ? own.length - 1 : own.length + 1);
  return { address, path };
}
