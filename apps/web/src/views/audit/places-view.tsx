import { reachableFrom, type ProjectIndex } from '@oquel/core';
import { useMemo, type ReactNode } from 'react';
import { Link } from 'react-router';
import { PlanDrawing } from '../../parts/plan/plan-drawing.js';
import type { ThingLook } from '../../parts/plan/plan-thing.js';
import { thingsOf } from '../../parts/plan/thing.js';
import { instancePlace } from '../../parts/places.js';

interface Props {
  index: ProjectIndex;
  base: string;
  places: readonly { at: string; note: string }[];
}
const MOST = 40;

/** Places with what is said of each; those of the first scene are drawn on its plan. */
export function PlacesView({ index, base, places }: Props): ReactNode {
  const scene = useMemo(() => {
    const id = places.map((p) => p.at.slice(0, Math.max(0, p.at.indexOf(':')))).find((s) => s !== '');
    const at = index.assetAt.get(id ?? '');
    return at === undefined || index.assets[at].decl.kind !== 'scene' ? null : index.assets[at];
  }, [index, places]);
  const things = useMemo(
    () =>
      scene
        ? thingsOf(
            index,
            reachableFrom(index, scene).filter((t) => t.depth > 0),
          )
        : [],
    [index, scene],
  );
  const looks = useMemo(() => {
    const here = new Map<string, ThingLook>();
    if (!scene) return here;
    for (const t of things) here.set(t.path, { faded: true });
    for (const { at } of places) {
      if (at.startsWith(`${scene.decl.id}:`)) here.set(at.slice(scene.decl.id.length + 1), { chosen: true });
    }
    return here;
  }, [scene, things, places]);
  return (
    <>
      {scene && things.length > 0 && (
        <div className="plan placesplan">
          <PlanDrawing
            label={`Places in ${scene.decl.id}`}
            size={scene.decl.size}
            things={things}
            looks={looks}
            onPick={() => undefined}
          />
        </div>
      )}
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
