import './impact-panel.css';
import { printFrom, type AssetIndex, type Binding, type ChangeSet } from '@oquel/core';
import type { ReactNode } from 'react';
import { usePreview } from '../session/use-preview.js';
import { SaidSentence } from './ui/sentence.js';
import { countText } from './ui/severity-mark.js';

const MOST = 60;

/** A change of something that bindings use: which they are, and what it would bring, before it is done. */
export function ImpactPanel({
  uses,
  changeSet,
  children,
  onDo,
  onKeep,
}: {
  uses: readonly { owner: AssetIndex; binding: Binding }[];
  changeSet: ChangeSet;
  children?: ReactNode;
  onDo: () => void;
  onKeep: () => void;
}): ReactNode {
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
        {carried > 0 && (carried >= uses.length ? ', all carried along' : `, ${carried} carried along`)}
      </h2>
      {children}
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
