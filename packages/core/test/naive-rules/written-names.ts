import type { Asset } from '../../src/index.js';
import type { NaiveReading, SecondReading } from './reading.js';

function styles(r: NaiveReading): void {
  const { assets, channels, policy } = r.n.project;
  const patterns: Readonly<Record<string, string | undefined>> = { event: '^on[A-Z]', ...policy?.names };
  const judge = (kind: string, name: string, subject: object): void => {
    const { [kind]: pattern } = patterns;
    if (pattern !== undefined && !new RegExp(pattern, 'u').test(name))
      r.report('name-style', '', subject, []);
  };
  for (const { name } of channels ?? []) judge('channel', name, { channel: name });
  for (const { id: asset, events, actions, placements } of assets) {
    judge('asset', asset, { asset });
    for (const { name } of events ?? []) judge('event', name, { asset, event: name });
    for (const { name } of actions ?? []) judge('action', name, { asset, action: name });
    for (const { id } of placements ?? []) judge('placement', id, { asset, placement: id });
  }
}

/** All that stands in an asset, at any depth. */
function inside(r: NaiveReading, asset: Asset, found = new Set<Asset>()): Set<Asset> {
  for (const p of asset.placements ?? []) {
    const placed = r.n.asset(p.asset);
    if (!placed || placed.kind === 'scene' || found.has(placed)) continue;
    found.add(placed);
    inside(r, placed, found);
  }
  return found;
}
function loops(r: NaiveReading): void {
  const { assets } = r.n.project;
  const stopped = r.n.instances.flatMap((i) =>
    [...i.children].flatMap(([id, child]) => {
      const placed = i.asset.placements!.find((p) => p.id === id)!.asset;
      const at = i.address.endsWith(':.') ? `${i.address.slice(0, -1)}${id}` : `${i.address}/${id}`;
      return child === 'stopped' ? [{ placed, at }] : [];
    }),
  );
  for (const asset of assets) {
    const around = [...inside(r, asset)].filter((other) => inside(r, other).has(asset));
    if (!around.includes(asset) || assets.find((a) => around.includes(a)) !== asset) continue;
    const names = around.map((a) => a.id);
    const at = stopped.filter((s) => names.includes(s.placed)).map((s) => s.at);
    r.report('nesting-loop', '', { asset: asset.id }, at);
  }
}

export const ofWrittenNames: SecondReading = {
  rules: ['name-style', 'nesting-loop'],
  read(r) {
    styles(r);
    loops(r);
  },
};
