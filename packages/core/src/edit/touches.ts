import type { Change } from './change.js';

/**
 * What a change set reads or writes, as names: `bindings/pylon-ridge/gust-1`, `events/WindMast`, `policy`. Two change
 * sets whose names do not meet can be applied in either order.
 */
export function touches(changes: readonly Change[]): Set<string> {
  const names = new Set<string>();
  for (const change of changes) {
    if (change.op === 'add') names.add(`asset/${change.item.id}`);
    else if (change.op === 'drop') names.add(`asset/${change.asset}`);
    else if (change.op === 'set') {
      names.add(change.asset === undefined ? change.part : `${change.part}/${change.asset}`);
    } else {
      const base = `${change.list}/${change.asset}/`;
      if (change.op !== 'insert') names.add(base + change.id);
      if (change.op === 'insert' || change.op === 'replace') names.add(base + change.item.id);
    }
  }
  return names;
}

/**
 * Names that both change sets touch, sorted. Empty if the later one can be carried over. An asset that comes or goes in
 * one meets everything that the other does in it.
 */
export function overlap(a: readonly Change[], b: readonly Change[]): string[] {
  const [ofA, ofB] = [touches(a), touches(b)];
  const met = [...ofB].filter((name) => ofA.has(name));
  for (const asset of assetsMoved(a)) if (assetsIn(b).has(asset)) met.push(`asset/${asset}`);
  for (const asset of assetsMoved(b)) if (assetsIn(a).has(asset)) met.push(`asset/${asset}`);
  return [...new Set(met)].sort();
}
function assetsMoved(changes: readonly Change[]): string[] {
  return changes.flatMap((c) => (c.op === 'add' ? [c.item.id] : c.op === 'drop' ? [c.asset] : []));
}
function assetsIn(changes: readonly Change[]): Set<string> {
  return new Set(
    changes.flatMap((c) => (c.op === 'add' ? [c.item.id] : c.asset === undefined ? [] : [c.asset])),
  );
}
