import './impact-panel.css';
import { countUses, printFrom, type ChangeSet, type NameUses } from '@oquel/core';
import type { ReactNode } from 'react';
import { usePreview } from '../session/use-preview.js';
import { SaidSentence } from './ui/sentence.js';
import { countText } from '../format.js';

const MOST = 60;

/** A change of something that is used elsewhere: where, and what it would bring, before it is done. */
export function ImpactPanel({
  uses,
  changeSet,
  children,
  onDo,
  onKeep,
}: {
  uses: NameUses;
  changeSet: ChangeSet;
  children?: ReactNode;
  onDo: () => void;
  onKeep: () => void;
}): ReactNode {
  const found = usePreview(changeSet.changes);
  const { bindings } = uses;
  const others = otherUses(uses);
  return (
    <section
      className="removal"
      role="dialog"
      aria-label={changeSet.label}
      onKeyDown={(e) => e.key === 'Escape' && onKeep()}
    >
      <h2>
        {changeSet.label}: used in {countText(countUses(uses), 'place')}
      </h2>
      {children}
      {/* It scrolls where there are many. */}
      <ul className="sentences" tabIndex={0} aria-label="What names it">
        {bindings.slice(0, MOST).map(({ owner, binding }) => (
          <li className="sentence" key={`${owner.decl.id}/${binding.id}`}>
            <span className="nth" />
            <span className="said">
              <span className="soft">{owner.decl.id}: </span>
              when <span className="who">{printFrom(binding)}</span> do <SaidSentence binding={binding} />
            </span>
          </li>
        ))}
        {bindings.length > MOST && <li className="soft">and {bindings.length - MOST} more</li>}
        {others.slice(0, MOST).map((text) => (
          <li className="sentence" key={text}>
            <span className="nth" />
            <span className="said">{text}</span>
          </li>
        ))}
        {others.length > MOST && <li className="soft">and {others.length - MOST} more</li>}
      </ul>
      <div role="status">
        {!found && <span className="soft">Checking findings ...</span>}
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
          Apply
        </button>
        <button type="button" className="tick" onClick={onKeep}>
          Cancel
        </button>
      </div>
    </section>
  );
}

/** Uses that are no bindings, in words. */
function otherUses({ placements, declarations, rehearsals }: NameUses): string[] {
  return [
    ...placements.map(({ owner, placement }) => `${owner.decl.id}: placement ${placement.id}`),
    ...declarations.map(({ asset, text }) => (asset === '' ? text : `${asset}: ${text}`)),
    ...rehearsals.map((name) => `rehearsal “${name}”`),
  ];
}
