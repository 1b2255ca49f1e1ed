import {
  printFrom,
  usesOf,
  type AssetIndex,
  type ChangeSet,
  type Declared,
  type ProjectIndex,
} from '@oquel/core';
import { useMemo, type ReactNode } from 'react';
import { SaidSentence } from '../../parts/ui/sentence.js';
import { countText } from '../../parts/ui/severity-mark.js';
import { usePreview } from '../../session/use-preview.js';

/** A change of a declaration that bindings use. */
export interface Pending {
  kind: Declared;
  name: string;
  changeSet: ChangeSet;
}
const MOST = 60;

/** Which bindings use a declaration, and what changing it would bring, before it is done. */
export function ImpactPanel({
  index,
  asset,
  pending: { kind, name, changeSet },
  onDo,
  onKeep,
}: {
  index: ProjectIndex;
  asset: AssetIndex;
  pending: Pending;
  onDo: () => void;
  onKeep: () => void;
}): ReactNode {
  const uses = useMemo(() => usesOf(index, asset, kind, name), [index, asset, kind, name]);
  const found = usePreview(changeSet.changes);
  const carried = changeSet.changes.filter((c) => c.op === 'replace').length;
  return (
    <section
      className="removal"
      role="dialog"
      aria-label={changeSet.label}
      onKeyDown={(e) => e.key === 'Escape' && onKeep()}
    >
      <h2>
        {changeSet.label}: {countText(uses.length, 'binding')} {uses.length === 1 ? 'uses' : 'use'} it
        {carried > 0 && ', all carried along'}
      </h2>
      <ul className="sentences">
        {uses.slice(0, MOST).map(({ owner, binding }) => (
          <li className="sentence" key={`${owner.decl.id}/${binding.id}`}>
            <span className="nth" />
            <span className="said">
              <span className="soft">{owner.decl.id}: </span>
              when <span className="who">{printFrom(binding)}</span> do <SaidSentence binding={binding} />
            </span>
          </li>
        ))}
        {uses.length > MOST && <li className="soft">and {uses.length - MOST} more</li>}
      </ul>
      <div role="status">
        {!found && <span className="soft">Looking what the audit would say ...</span>}
        {found && found.added.length === 0 && found.gone.length === 0 && 'No finding would change.'}
        {found?.added.slice(0, 4).map((f) => (
          <div key={f.fingerprint} className={`fault ${f.severity}`}>
            new: {f.message}
          </div>
        ))}
        {found && found.added.length > 4 && <div>and {found.added.length - 4} new findings more</div>}
        {found && found.gone.length > 0 && <div>{countText(found.gone.length, 'finding')} gone</div>}
      </div>
      <div className="row">
        <button type="button" className="tick" aria-pressed="true" autoFocus onClick={onDo}>
          Do it
        </button>
        <button type="button" className="tick" onClick={onKeep}>
          Keep it as it was
        </button>
      </div>
    </section>
  );
}
