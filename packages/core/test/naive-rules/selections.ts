import type { Asset, Binding } from '../../src/index.js';
import type { NaiveInstance } from '../naive.js';
import type { NaiveReading, SecondReading } from './reading.js';

const hasKey = (asset: Asset): boolean => (asset.properties ?? []).some((p) => p.isKey === true);
/** How many there are; one that is spawned may be there twice. */
const weight = (list: Iterable<NaiveInstance>): number =>
  [...list].reduce((sum, i) => sum + (i.spawned ? 2 : 1), 0);

/** All copies of a binding whose ends are there, with what each of them reaches. */
interface Selecting {
  asset: Asset;
  binding: Binding;
  copies: { owner: NaiveInstance; receivers: NaiveInstance[]; candidates: NaiveInstance[] }[];
}
function selecting(r: NaiveReading): Selecting[] {
  const all = new Map<Binding, Selecting>();
  for (const { owner, binding, ends } of r.copies()) {
    if (!ends?.receivers) continue;
    const one = all.get(binding) ?? { asset: owner.asset, binding, copies: [] };
    one.copies.push({ owner, receivers: ends.receivers, candidates: ends.candidates! });
    all.set(binding, one);
  }
  return [...all.values()];
}

function selections(r: NaiveReading): void {
  for (const { asset, binding, copies } of selecting(r)) {
    const { from, to } = binding;
    const subject = { asset: asset.id, binding: binding.id };
    const tell = (rule: string, cls: string, list: typeof copies): void => {
      if (list.length > 0)
        r.report(
          rule,
          cls,
          subject,
          list.map(({ owner }) => owner.address),
        );
    };
    if ('every' in to) {
      if (copies.every(({ receivers }) => receivers.length === 0)) tell('empty-selection', '', copies);
      const many = copies.filter(({ candidates }) => weight(candidates) >= 2);
      if (to.pick === 'first') tell('first-of-many', '', many);
      const isWanted = 'channel' in from && typeof from.key === 'object' && 'property' in from.key;
      const all = to.match === undefined && to.pick !== 'first' && !isWanted;
      if (all && hasKey(r.n.asset(to.every)!)) tell('broadcast-spill', 'every', many);
    } else if ('channel' in from && from.key === undefined) {
      const receivers = new Set(copies.flatMap((c) => c.receivers));
      if (weight(receivers) >= 2 && [asset, ...[...receivers].map((i) => i.asset)].some(hasKey))
        tell('broadcast-spill', 'channel', copies);
    }
  }
}

function unloaded(r: NaiveReading): void {
  const sets = r.n.project.loadSets ?? [];
  if (sets.length === 0) return;
  for (const { owner, binding, ends } of r.copies()) {
    if (!ends?.receivers || !('at' in binding.to)) continue;
    const from = r.sceneOf(ends.event ? ends.reader : owner).asset;
    const to = r.sceneOf(ends.receivers[0]).asset;
    if (from === to || to.persistent) continue;
    const holding = sets.filter((s) => from.persistent === true || s.scenes.includes(from.id));
    const both = holding.filter((s) => s.scenes.includes(to.id));
    if (both.length === holding.length && both.length > 0) continue;
    const cls = both.length === 0 ? 'apart' : 'sometimes';
    r.report('unloaded-target', cls, { asset: owner.asset.id, binding: binding.id }, [owner.address]);
  }
}

export const ofSelections: SecondReading = {
  rules: ['empty-selection', 'first-of-many', 'broadcast-spill', 'unloaded-target'],
  read(r) {
    selections(r);
    unloaded(r);
  },
};
