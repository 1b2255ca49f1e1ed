import { isLiteral, type Asset, type Binding, type KeyExpr } from '../../src/index.js';
import { walkTo } from './paths.js';
import type { NaiveReading, SecondReading } from './reading.js';

type End = Asset | 'missing' | 'stopped';

/** Whatever a binding names and is not there, with the assets that its paths lead to; what is stopped has its own finding. */
function faults(r: NaiveReading, owner: Asset, b: Binding, sender: End, receiver: End): Set<string> {
  const { from, to } = b;
  const found = new Set<string>();
  const channels = (r.n.project.channels ?? []).map((c) => c.name);
  const lacks = (asset: End | undefined, key: KeyExpr | undefined): boolean =>
    typeof asset === 'object' &&
    key !== undefined &&
    !isLiteral(key) &&
    !(asset.properties ?? []).some((p) => p.name === key.property);
  const reader = 'channel' in from ? owner : sender;

  if ('channel' in from) {
    if (!channels.includes(from.channel)) found.add('sender/channel');
  } else if (sender === 'missing') found.add('sender/placement');
  else if (sender !== 'stopped' && !sender.events?.some((e) => e.name === from.event))
    found.add('sender/event');

  if ('channel' in to) {
    if (!channels.includes(to.channel)) found.add('target/channel');
    if (lacks(reader, to.key)) found.add('target/property');
    return found;
  }
  const listener = 'every' in to ? r.n.asset(to.every) : receiver;
  if (!listener) found.add('target/asset');
  else if (listener === 'missing') found.add('target/placement');
  else if (listener !== 'stopped' && !listener.actions?.some((a) => a.name === to.action))
    found.add('target/action');
  if ('every' in to && listener && to.match !== undefined && to.match !== 'all') {
    const { property, equals } = to.match;
    if (lacks(listener, { property }) || lacks(reader, equals)) found.add('target/property');
  }
  if ('channel' in from && lacks(listener, from.key)) found.add('sender/property');
  return found;
}

function binding(r: NaiveReading, owner: Asset, b: Binding): void {
  const report = (found: ReadonlySet<string>, at: readonly string[]): void => {
    for (const fault of found) {
      const [end, cls] = fault.split('/');
      r.report(`dangling-${end}`, cls, { asset: owner.id, binding: b.id }, at);
    }
  };
  const all = r.n.instances.filter((i) => i.asset.id === owner.id);
  const { from, to } = b;
  if (b.enabled === false) return;
  if (all.length === 0) {
    const end = (path: string | null): End => (path === null ? 'missing' : walkTo(r, owner, path));
    report(faults(r, owner, b, end('at' in from ? from.at : null), end('at' in to ? to.at : null)), []);
  }
  for (const i of all.filter((copy) => !copy.muted.includes(b.id))) {
    const end = (path: string | null): End => {
      const there = path === null ? 'missing' : r.n.resolve(i, path);
      return typeof there === 'string' ? there : there.asset;
    };
    const found = faults(r, owner, b, end('at' in from ? from.at : null), end('at' in to ? to.at : null));
    report(found, [i.address]);
  }
}

export const ofWrittenEnds: SecondReading = {
  rules: ['dangling-sender', 'dangling-target'],
  read(r) {
    for (const asset of r.n.project.assets) for (const b of asset.bindings ?? []) binding(r, asset, b);
  },
};
