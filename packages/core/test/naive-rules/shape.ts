import type { NaiveReading, SecondReading } from './reading.js';

function fanOut(r: NaiveReading): void {
  const limit = r.n.project.policy?.maxFanOut ?? 12;
  for (const { i, e, node } of r.events()) {
    const reached = new Set(r.deliveriesOf(node).map((d) => d.last.head));
    if (reached.size > limit) r.report('wide-fan-out', '', { asset: i.asset.id, event: e.name }, [i.address]);
  }
}

function tangle(r: NaiveReading): void {
  const limit = r.n.project.policy?.maxTangle ?? 8;
  const direct = r.edges
    .filter((e) => e.kind === 'bind')
    .map((e) => {
      const from = r.at.get(e.tail.split(' ')[0])!.asset;
      const to = r.at.get(e.head.split(' ')[0])!.asset;
      return { from, to, by: e.by! };
    });
  const parts = r.n.project.assets.filter((a) => a.kind !== 'scene');
  for (const a of parts) {
    for (const b of parts) {
      if (a.id >= b.id) continue;
      const one = direct.filter((d) => d.from === a && d.to === b);
      const back = direct.filter((d) => d.from === b && d.to === a);
      const distinct = (list: typeof one): number => new Set(list.map((d) => d.by.binding)).size;
      if (one.length === 0 || back.length === 0 || distinct(one) + distinct(back) <= limit) continue;
      r.report(
        'prefab-tangle',
        '',
        { assets: [a.id, b.id] },
        [...one, ...back].map((d) => d.by.owner.address),
      );
    }
  }
}

export const ofShape: SecondReading = {
  rules: ['wide-fan-out', 'prefab-tangle'],
  read(r) {
    fanOut(r);
    tangle(r);
  },
};
