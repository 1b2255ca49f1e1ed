import { printFrom, type CrossingCell, type ProjectIndex } from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { bindingPlace } from '../../parts/places.js';
import { SaidSentence } from '../../parts/ui/sentence.js';
import { countText } from '../../format.js';
import { coverageOfMany, coveredWords } from '../../session/coverage.js';
import { useCoverage } from '../../session/use-coverage.js';
import { CoveredMark } from '../../parts/ui/covered-mark.js';

/** What one group says to another, and what it hears back. */
export function CellPanel({
  index,
  base,
  from,
  to,
  cell,
  back,
  onTurn,
}: {
  index: ProjectIndex;
  base: string;
  from: string;
  to: string;
  cell: CrossingCell | undefined;
  back: CrossingCell | undefined;
  onTurn: () => void;
}): ReactNode {
  return (
    <article className="cellpanel" aria-label={`${from} to ${to}`}>
      <Direction index={index} base={base} from={from} to={to} cell={cell} />
      {from !== to && (
        <>
          <button type="button" className="word" onClick={onTurn}>
            Swap sides
          </button>
          <Direction index={index} base={base} from={to} to={from} cell={back} />
        </>
      )}
    </article>
  );
}

const MOST = 60;
/** The address of the sheet names them, and addresses are not endless. */
const MOST_LISTED = 150;
function among({ bindings }: CrossingCell): string {
  return bindings
    .slice(0, MOST_LISTED)
    .map((b) => `${b.asset}/${b.binding}`)
    .join(',');
}

function Direction({
  index,
  base,
  from,
  to,
  cell,
}: {
  index: ProjectIndex;
  base: string;
  from: string;
  to: string;
  cell: CrossingCell | undefined;
}): ReactNode {
  const coverage = useCoverage();
  const used = coverage && cell ? coverageOfMany(cell.bindings, coverage) : null;
  return (
    <section>
      <h2>
        <span className="mono">{from}</span> <span className="soft">to</span>{' '}
        <span className="mono">{to}</span>
      </h2>
      {!cell && <p className="soft">triggers nothing in it</p>}
      {cell && (
        <>
          <p>
            <b>{countText(cell.deliveries, 'delivery', 'deliveries')}</b> by {countText(cell.of, 'binding')}
            {cell.throughChannel > 0 && ` · ${cell.throughChannel} through channels`}
            {cell.acrossScenes > 0 && ` · ${cell.acrossScenes} across scenes`}
            {cell.inCode > 0 && ` · ${cell.inCode} in code`}
            {used && ` · ${coveredWords(used)}`}
          </p>
          <Link to={`${base}/wire/sheet?${new URLSearchParams({ among: among(cell) }).toString()}`}>
            {cell.of > MOST_LISTED ? `The first ${MOST_LISTED} in the sheet` : 'All of them in the sheet'}
          </Link>
          <ul className="entryuses">
            {cell.bindings.slice(0, MOST).map(({ asset, binding }) => {
              const owner = index.assets[index.assetAt.get(asset) ?? -1];
              const decl = owner?.bindings[owner.bindingAt.get(binding) ?? -1];
              const place = bindingPlace(index, base, asset, binding);
              if (!decl || !place) return null;
              const usedHere = coverage?.(asset, binding);
              return (
                <li key={`${asset}/${binding}`}>
                  {usedHere && <CoveredMark used={usedHere} />} <Link to={place.href}>{asset}</Link>{' '}
                  <span className="soft">when</span> <span className="mono">{printFrom(decl)}</span>{' '}
                  <span className="soft">do</span> <SaidSentence binding={decl} />
                </li>
              );
            })}
            {cell.of > MOST && <li className="soft">and {cell.of - MOST} more</li>}
          </ul>
        </>
      )}
    </section>
  );
}
