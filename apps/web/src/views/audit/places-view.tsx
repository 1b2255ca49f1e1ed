import type { ProjectIndex } from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { instancePlace } from '../../parts/places.js';
import { PlacesPlan } from './places-plan.js';

interface Props {
  index: ProjectIndex;
  base: string;
  places: readonly { at: string; note: string }[];
}
const MOST = 40;

/** Places with what is said of each; those of the first scene are drawn on its plan. */
export function PlacesView({ index, base, places }: Props): ReactNode {
  return (
    <>
      <PlacesPlan index={index} addresses={places.map((p) => p.at)} />
      <ul className="problemlist">
        {places.slice(0, MOST).map((p) => {
          const place = instancePlace(index, base, p.at);
          return (
            <li key={p.at}>
              {place ? (
                <Link className="mono" to={place.href}>
                  {p.at}
                </Link>
              ) : (
                <span className="mono">{p.at}</span>
              )}{' '}
              {p.note}
            </li>
          );
        })}
        {places.length > MOST && <li className="soft">and {places.length - MOST} more</li>}
      </ul>
    </>
  );
}
