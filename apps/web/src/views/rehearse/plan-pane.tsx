import {
  statesAfter,
  walkersOf,
  type Expectation,
  type ProjectIndex,
  type Rehearsal,
  type Step,
  type TraceRecord,
  type Value,
  type Vec2,
} from '@oquel/core';
import { useMemo, useState, type ReactNode } from 'react';
import { PlanDrawing } from '../../parts/plan/plan-drawing.js';
import type { ThingStyle } from '../../parts/plan/plan-thing.js';
import { useSceneThings } from '../../parts/plan/use-scene-things.js';
import { useSessionState } from '../../session/session-context.js';
import type { RehearseAddress } from './rehearse-address.js';
import { ThingPanel } from './thing-panel.js';
import { WalkPanel } from './walk-panel.js';

interface Props {
  address: RehearseAddress;
  rehearsal: Rehearsal;
  /** Scenes that take part. */
  scenes: readonly string[];
  records: readonly TraceRecord[];
  here: TraceRecord | undefined;
  at: number;
  onSteps: (steps: readonly Step[]) => void;
  onExpect: (expect: Expectation) => void;
  /** What stands under the plan while nothing is pressed on it. */
  children: ReactNode;
}

/** The plan of one scene that takes part: press a thing to do something to it, or draw a walk. */
export function PlanPane(props: Props): ReactNode {
  const { address, rehearsal, scenes, records, here, at, onSteps, onExpect, children } = props;
  const { index } = useSessionState();
  const { thing, go } = address;
  const [walk, setWalk] = useState<readonly Vec2[] | null>(null);
  const scene = sceneOf(address, scenes, rehearsal, index);
  const owner = index.assets[index.assetAt.get(scene) ?? -1];
  const { reachable, things } = useSceneThings(index, owner);
  const thingStyles = useMemo(() => thingStylesAt(scene, thing, here), [scene, thing, here]);
  const walkers = useMemo(() => walkersOf(index), [index]);
  const chosen = reachable.find((t) => t.path === thing);
  const cursor = here?.n ?? 0;
  const changed = useMemo(() => {
    const values = new Map<string, Value>();
    for (const s of statesAfter(records, cursor)) {
      if (s.at === `${scene}:${thing}` && typeof s.what === 'object' && 'property' in s.what) {
        values.set(s.what.property, s.now);
      }
    }
    return values;
  }, [records, cursor, scene, thing]);
  return (
    <section className="rehearseplan" aria-label="Plan">
      <div className="row planbar">
        <select
          className="line"
          aria-label="Scene on the plan"
          value={scene}
          onChange={(e) => {
            setWalk(null);
            go({ scene: e.target.value, thing: '' });
          }}
        >
          {(scenes.length > 0 ? scenes : [scene]).map((s) => (
            <option key={s}>{s}</option>
          ))}
        </select>
        <button
          type="button"
          className="tick"
          aria-pressed={walk !== null}
          onClick={() => {
            setWalk(walk ? null : []);
            go({ thing: '' });
          }}
        >
          draw a walk
        </button>
        {!walk && !chosen && <span className="soft">press a thing to do something to it</span>}
      </div>
      <div className="plan">
        {owner && (
          <PlanDrawing
            label={`Plan of ${scene}`}
            size={owner.decl.size}
            things={things}
            thingStyles={thingStyles}
            onPick={(path) => !walk && go({ thing: path })}
            way={walk ?? undefined}
            placementEdits={
              walk
                ? {
                    snap: 0,
                    chosen: [],
                    placing: true,
                    onMove: nothing,
                    onFrame: nothing,
                    onArea: nothing,
                    onGround: ([x, y]) => setWalk([...walk, [round(x), round(y)]]),
                  }
                : undefined
            }
          />
        )}
      </div>
      {walk && (
        <WalkPanel
          scene={scene}
          points={walk}
          start={at}
          walkers={walkers}
          onPoints={setWalk}
          onSteps={onSteps}
          onClose={() => setWalk(null)}
        />
      )}
      {!walk && chosen && (
        <ThingPanel
          key={`${scene}:${thing}`}
          index={index}
          thing={chosen}
          address={`${scene}:${thing}`}
          at={at}
          changed={changed}
          walkers={walkers}
          onStep={(step) => onSteps([step])}
          onExpect={onExpect}
          onClose={() => go({ thing: '' })}
        />
      )}
      {!walk && !chosen && children}
    </section>
  );
}
function nothing(): void {}
function round(n: number): number {
  return Math.round(n * 100) / 100;
}

/** The scene that the address asks for, or the one where the script begins, or the first that takes part. */
export function sceneOf(
  { scene }: RehearseAddress,
  scenes: readonly string[],
  rehearsal: Rehearsal,
  index: ProjectIndex,
): string {
  if (scene !== '' && index.assetAt.has(scene)) return scene;
  for (const step of rehearsal.steps) {
    const at = 'raise' in step ? step.raise.at : 'expect' in step ? step.expect.at : '';
    const first = at.split(':', 1)[0];
    if (scenes.includes(first)) return first;
  }
  return scenes[0] ?? index.assets.find((a) => a.decl.kind === 'scene')?.decl.id ?? '';
}

/** What acts at the cursor is lit, and so is what caused it. */
function thingStylesAt(
  scene: string,
  thing: string,
  here: TraceRecord | undefined,
): ReadonlyMap<string, ThingStyle> {
  const thingStyles = new Map<string, ThingStyle>();
  const light = (address: string | undefined, look: ThingStyle): void => {
    if (!address?.startsWith(`${scene}:`)) return;
    const path = address.slice(scene.length + 1);
    thingStyles.set(path, { ...thingStyles.get(path), ...look });
  };
  if (here && 'at' in here) light(here.at, { picked: true });
  if (thing !== '') thingStyles.set(thing, { ...thingStyles.get(thing), chosen: true });
  return thingStyles;
}
