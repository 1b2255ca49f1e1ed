import type { Asset } from '../../src/index.js';
import { copies, literal } from './literals.js';
import type { NaiveReading, SecondReading } from './reading.js';

function placements(r: NaiveReading, owner: Asset): void {
  const peers = (r.n.project.peers ?? []).map((p) => p.name);
  for (const p of owner.placements ?? []) {
    const subject = { asset: owner.id, placement: p.id };
    const placed = r.n.asset(p.asset);
    if (!placed || placed.kind === 'scene') {
      const at = copies(r, owner).map((a) =>
        a.endsWith(':.') ? `${a.slice(0, -1)}${p.id}` : `${a}/${p.id}`,
      );
      r.report('unknown-asset', '', subject, at);
    }
    const at = r.n.instances
      .filter((i) => i.parent?.asset.id === owner.id && i.parent.children.get(p.id) === i)
      .map((i) => i.address);
    if (placed && placed.kind !== 'scene') {
      for (const name of p.muted ?? []) {
        if (placed.bindings?.some((b) => b.id === name)) continue;
        r.report('dangling-name', 'muted', { ...subject, name }, at);
      }
      for (const [name, value] of Object.entries(p.properties ?? {})) {
        const type = placed.properties?.find((x) => x.name === name)?.type;
        const own = { ...subject, property: name };
        if (!type) r.report('dangling-name', 'override', own, at);
        else literal(r, value, type, at, own);
      }
      for (const [path, values] of Object.entries(p.inside ?? {})) {
        let inner: Asset | undefined = placed;
        for (const segment of path.split('/')) {
          const id: string | undefined = inner?.placements?.find((q) => q.id === segment)?.asset;
          inner = id === undefined ? undefined : r.n.asset(id);
          if (inner?.kind === 'scene') inner = undefined;
        }
        if (!inner) {
          r.report('dangling-name', 'override', { ...subject, name: path }, at);
          continue;
        }
        for (const [name, value] of Object.entries(values)) {
          const type = inner.properties?.find((x) => x.name === name)?.type;
          const own = { ...subject, property: `${path}.${name}` };
          if (!type) r.report('dangling-name', 'override', own, at);
          else literal(r, value, type, at, own);
        }
      }
    }
    for (const name of peers.length > 0 ? [p.authority, p.operator] : []) {
      if (name !== undefined && !peers.includes(name)) {
        r.report('dangling-name', 'peer', { ...subject, name }, at);
      }
    }
  }
}

function causes(r: NaiveReading, asset: Asset): void {
  for (const { name: event, cause } of asset.events ?? []) {
    if (cause.type === 'change' && !asset.properties?.some((p) => p.name === cause.property)) {
      const subject = { asset: asset.id, event, name: cause.property };
      r.report('dangling-name', 'property', subject, copies(r, asset));
    }
    const list = ('activators' in cause && cause.activators) || [];
    const matches = (entry: string): boolean =>
      entry.startsWith('#')
        ? r.n.project.assets.some((a) => a.tags?.includes(entry.slice(1)))
        : r.n.asset(entry) !== undefined;
    if (!list.some(matches)) continue;
    for (const name of list) {
      if (!matches(name)) {
        r.report('dangling-name', 'activator', { asset: asset.id, event, name }, copies(r, asset));
      }
    }
  }
}

function loadSets(r: NaiveReading): void {
  const scenes = r.n.project.assets.filter((a) => a.kind === 'scene').map((a) => a.id);
  for (const { name: loadSet, scenes: named } of r.n.project.loadSets ?? []) {
    for (const name of named)
      if (!scenes.includes(name)) r.report('dangling-name', 'scene', { loadSet, name }, []);
  }
}

export const ofWrittenPlacements: SecondReading = {
  rules: ['unknown-asset', 'dangling-name', 'dangling-key'],
  read(r) {
    for (const asset of r.n.project.assets) {
      placements(r, asset);
      causes(r, asset);
    }
    loadSets(r);
  },
};
