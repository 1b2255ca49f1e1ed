import { type ProjectIndex } from '@oquel/core';
import { useMemo, type ReactNode } from 'react';
import { PlanDrawing } from '../../parts/plan/plan-drawing.js';
import type { ThingStyle } from '../../parts/plan/plan-thing.js';
import { useSceneThings } from '../../parts/plan/use-scene-things.js';

/** The plan of the first scene that addresses are in, with those of it lit; nothing where none has a plan. */
export function PlacesPlan({
  index,
  addresses,
}: {
  index: ProjectIndex;
  addresses: readonly string[];
}): ReactNode {
  const scene = useMemo(() => {
    const id = addresses.map((a) => a.slice(0, Math.max(0, a.indexOf(':')))).find((s) => s !== '');
    const at = index.assetAt.get(id ?? '');
    return at === undefined || index.assets[at].decl.kind !== 'scene' ? null : index.assets[at];
  }, [index, addresses]);
  const { things } = useSceneThings(index, scene ?? undefined);
  const thingStyles = useMemo(() => {
    const here = new Map<string, ThingStyle>();
    if (!scene) return here;
    for (const t of things) here.set(t.path, { faded: true });
    for (const address of addresses) {
      if (address.startsWith(`${scene.decl.id}:`))
        here.set(address.slice(scene.decl.id.length + 1), { chosen: true });
    }
    return here;
  }, [scene, things, addresses]);
  if (!scene || things.length === 0) return null;
  const beyond = new Set(addresses.map((a) => a.split(':', 1)[0]).filter((s) => s !== scene.decl.id));
  return (
    <>
      <div className="plan placesplan">
        <PlanDrawing
          label={`Places in ${scene.decl.id}`}
          size={scene.decl.size}
          things={things}
          thingStyles={thingStyles}
          onPick={() => undefined}
        />
      </div>
      {beyond.size > 0 && (
        <p className="soft">
          The plan shows {scene.decl.id}; see the list for {[...beyond].join(', ')}.
        </p>
      )}
    </>
  );
}
