import type { BindingRef, ProjectIndex, RippleAxis, RippleFilter, RippleStart, Value } from '@oquel/core';
import { useMemo } from 'react';
import { useQuery, type GoTo } from '../../parts/use-query.js';

/** What Ripple shows, as the address says it. */
export interface RippleAddress {
  start: RippleStart;
  direction: 'forward' | 'backward';
  axis: RippleAxis;
  filter: RippleFilter;
  /** Folds that are open. */
  open: readonly string[];
  /** Bindings that are off for a trial. */
  muted: readonly BindingRef[];
  /** The entry that is looked at. */
  entry: string;
  lit: boolean;
  shows: 'picture' | 'list';
  /** The plan stands beside the picture. */
  plan: boolean;
  go: GoTo;
}

export function useRippleAddress(index: ProjectIndex): RippleAddress {
  const { params, go } = useQuery();
  return useMemo(() => {
    const list = (name: string): string[] => (params.get(name) ?? '').split(',').filter(Boolean);
    const filter: RippleFilter = {};
    for (const name of ['asset', 'scene', 'tag'] as const) {
      const value = params.get(`only-${name}`);
      if (value) filter[name] = value;
    }
    return {
      start: startOf(params) ?? firstStart(index),
      direction: params.get('way') === 'back' ? 'backward' : 'forward',
      axis: params.get('axis') === 'time' ? 'time' : 'hops',
      filter,
      open: (params.get('open') ?? '').split('|').filter(Boolean),
      muted: list('muted').map((m) => {
        const slash = m.indexOf('/');
        return { asset: m.slice(0, slash), binding: m.slice(slash + 1) };
      }),
      entry: params.get('entry') ?? '',
      lit: params.get('lit') === 'heaviest',
      shows: params.get('shows') === 'list' ? 'list' : 'picture',
      plan: params.get('plan') === 'beside',
      go,
    };
  }, [params, index, go]);
}

function startOf(params: URLSearchParams): RippleStart | null {
  const [at, asset, channel, name] = ['at', 'asset', 'channel', 'name'].map(
    (n) => params.get(n) ?? undefined,
  );
  const named = name === undefined ? {} : { name };
  if (at !== undefined) return { at, ...named };
  if (asset !== undefined) return { asset, ...named };
  if (channel === undefined) return null;
  const key = params.get('key');
  return key === null ? { channel } : { channel, key: readKey(key) };
}
function readKey(text: string): Value {
  try {
    return JSON.parse(text) as Value;
  } catch {
    return text;
  }
}
/** Without a word in the address: the first binding's sender, since something follows from it. */
function firstStart(index: ProjectIndex): RippleStart {
  const scene = index.assets.find((a) => a.decl.kind === 'scene' && a.bindings.some((b) => 'at' in b.from));
  const binding = scene?.bindings.find((b) => 'at' in b.from);
  if (!scene || !binding || !('at' in binding.from)) return { asset: index.assets[0]?.decl.id ?? '' };
  const { at, event } = binding.from;
  return { at: at.includes(':') ? at : `${scene.decl.id}:${at}`, name: event };
}
