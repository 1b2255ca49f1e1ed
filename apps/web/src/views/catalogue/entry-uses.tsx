import { printFrom, type CatalogueUse, type NameUses, type ProjectIndex } from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { countText } from '../../format.js';
import { bindingPlace } from '../../parts/places.js';
import { SaidSentence } from '../../parts/ui/sentence.js';

/** Uses that are shown. */
const MOST = 80;
/** The bindings that use an entry. */
export function Uses({
  index,
  base,
  uses,
  title,
}: {
  index: ProjectIndex;
  base: string;
  uses: readonly CatalogueUse[];
  title: string;
}): ReactNode {
  return (
    <section>
      <h2>
        {title} <span className="soft">{uses.length === 0 ? 'nobody' : uses.length}</span>
      </h2>
      <ul className="entryuses">
        {uses.slice(0, MOST).map(({ owner, binding, text }, i) => {
          if (!binding) return <li key={i}>{text}</li>;
          const place = bindingPlace(index, base, owner.decl.id, binding.id);
          return (
            <li key={i}>
              {place ? <Link to={place.href}>{owner.decl.id}</Link> : owner.decl.id}{' '}
              <span className="soft">when</span> <span className="mono">{printFrom(binding)}</span>{' '}
              <span className="soft">do</span> <SaidSentence binding={binding} />
              {binding.origin === 'code' && <span className="option">in code</span>}
            </li>
          );
        })}
        {uses.length > MOST && <li className="soft">and {countText(uses.length - MOST, 'more', 'more')}</li>}
      </ul>
    </section>
  );
}

/** What names something that belongs to the project. */
export function NamedUses({
  uses: { bindings, placements, declarations, rehearsals },
}: {
  uses: NameUses;
}): ReactNode {
  const lines = [
    ...declarations.map(({ asset, text }) => (asset === '' ? text : `${asset}: ${text}`)),
    ...placements.map(({ owner, placement }) => `${owner.decl.id}: placement ${placement.id}`),
    ...bindings.map(({ owner, binding }) => `${owner.decl.id}: binding ${binding.id}`),
    ...rehearsals.map((r) => `rehearsal “${r}”`),
  ];
  return (
    <section>
      <h2>
        Used by <span className="soft">{lines.length === 0 ? 'nothing' : lines.length}</span>
      </h2>
      <ul className="entryuses">
        {lines.slice(0, MOST).map((text) => (
          <li key={text}>{text}</li>
        ))}
        {lines.length > MOST && (
          <li className="soft">and {countText(lines.length - MOST, 'more', 'more')}</li>
        )}
      </ul>
    </section>
  );
}
