import type { BindingRef, ProjectIndex } from '@oquel/core';
import { useMemo, type ReactNode } from 'react';
import { useSelected } from '../../session/use-selected.js';
import { PlacesPlan } from './places-plan.js';
import { bindingOf, SideBySide } from './side-by-side.js';

/** Bindings that a finding speaks of: side by side, and their senders and receivers on the plan. */
export function BindingsView({
  index,
  base,
  bindings,
  occurrences,
}: {
  index: ProjectIndex;
  base: string;
  bindings: readonly BindingRef[];
  /** Addresses of the copies that are at fault. */
  occurrences: readonly string[];
}): ReactNode {
  const owner = bindings[0]?.asset ?? '';
  const known = useMemo(
    () =>
      bindings.flatMap((ref) => {
        const binding = ref.asset === owner ? bindingOf(index, ref) : undefined;
        return binding ? [binding] : [];
      }),
    [index, owner, bindings],
  );
  const selected = useSelected(owner, known);
  const isScene = index.assets[index.assetAt.get(owner) ?? -1]?.decl.kind === 'scene';
  const addresses = useMemo(() => {
    const ends = known.flatMap(({ from, to }) => [from, to]).flatMap((end) => ('at' in end ? [end.at] : []));
    const named = isScene ? ends.map((path) => (path === '.' ? owner : `${owner}:${path}`)) : occurrences;
    return [...named, ...[...selected.values()].flatMap((s) => s.first.map((r) => r.address))];
  }, [known, isScene, owner, selected, occurrences]);
  const count = [...selected.values()].reduce((n, s) => n + s.total, 0);
  return (
    <>
      {/* One alone is the sentence above. */}
      {bindings.length > 1 && <SideBySide index={index} base={base} bindings={bindings} />}
      {selected.size > 0 && (
        <p className="soft">
          {count === 0
            ? 'The selection takes nothing as the project stands.'
            : `The selection takes ${count === 1 ? '1 receiver' : `${count} receivers`} as the project stands.`}
        </p>
      )}
      <PlacesPlan index={index} addresses={addresses} />
    </>
  );
}
