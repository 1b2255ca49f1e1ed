import { canonicalJson, type Value } from '../../src/index.js';
import type { NaiveInstance } from '../naive.js';
import type { NaiveReading, SecondReading } from './reading.js';

function keys(r: NaiveReading): void {
  const { project, instances } = r.n;
  const together = (a: NaiveInstance, b: NaiveInstance): boolean =>
    a === b ||
    a.asset.persistent === true ||
    b.asset.persistent === true ||
    (project.loadSets ?? []).some((s) => s.scenes.includes(a.asset.id) && s.scenes.includes(b.asset.id));
  for (const asset of project.assets) {
    const own = instances.filter((i) => i.asset === asset && !i.spawned);
    for (const p of asset.properties ?? []) {
      const kept = own.filter((i) => !Object.hasOwn(i.overrides, p.name));
      const fires = p.isKey === true && kept.length >= 2 && kept.length < own.length;
      if (fires)
        r.report(
          'default-key',
          '',
          { asset: asset.id, property: p.name },
          kept.map((i) => i.address),
        );
      if (!p.unique) continue;
      const judged = own.filter((i) => !fires || !kept.includes(i));
      const value = (i: NaiveInstance): Value => r.n.value(i, p.name)!;
      for (const i of judged) {
        const others = judged.filter(
          (j) =>
            j !== i &&
            canonicalJson(value(j)) === canonicalJson(value(i)) &&
            together(r.sceneOf(i), r.sceneOf(j)),
        );
        if (others.length === 0) continue;
        r.report('shared-key', '', { asset: asset.id, property: p.name, key: value(i) }, [i.address]);
      }
    }
  }
}

export const ofKeys: SecondReading = { rules: ['default-key', 'shared-key'], read: keys };
