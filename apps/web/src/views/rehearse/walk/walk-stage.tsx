import { atHand, reachableFrom, type Expectation, type Step } from '@oquel/core';
import { useCallback, useMemo, useState, useSyncExternalStore, type ReactNode } from 'react';
import { PlanDrawing, type PlanSeen } from '../../../parts/plan/plan-drawing.js';
import { useSessionState } from '../../../session/session-context.js';
import { Log } from '../log.js';
import { useSidePanel } from '../../../parts/ui/side-panel.js';
import { usePlanThings } from './use-plan-things.js';
import { Transport } from './transport.js';
import { useWalkKeys } from './walk-keys.js';
import { WalkLayer } from './walk-layer.js';
import type { WalkPlay } from './walk-play.js';
import { WalkSide } from './walk-side.js';

const NONE: ReadonlySet<number> = new Set();

/** The plan that is walked over, what is at hand, and what has happened. */
export function WalkStage({ scene, play }: { scene: string; play: WalkPlay }): ReactNode {
  const { index } = useSessionState();
  const seen = useSyncExternalStore(play.onList, play.seenNow);
  const [thing, setThing] = useState('');
  const owner = index.assets[index.assetAt.get(scene) ?? -1];
  const reachable = useMemo(() => reachableFrom(index, owner), [index, owner]);
  const { things, thingStyles } = usePlanThings(index, scene, reachable, seen.changes, thing);
  const places = useMemo(() => new Map(reachable.map((t) => [t.path, t.at])), [reachable]);
  // The same from frame to frame: a plan of thousands of things is not drawn anew without need.
  const pick = useCallback((path: string) => setThing((old) => (old === path ? '' : path)), []);
  const walkTo = useCallback((at: [number, number]) => play.walkTo(at), [play]);
  const over = useCallback(
    (plan: PlanSeen) => <WalkLayer play={play} plan={plan} scene={scene} places={places} />,
    [play, scene, places],
  );
  const leave = useCallback(() => setThing(''), []);
  const use = useCallback(() => {
    const [place] = atHand(play.walk.ground, play.place);
    if (!place) return;
    play.perform({ raise: play.walk.raiseOf(place.address, place.use[0], {}) });
  }, [play]);
  useWalkKeys(play, use, leave);
  const onExpect = (expect: Expectation): void => play.expect(expect);
  const onStep = ({ at: _at, ...what }: Step): void => play.perform(what);
  const panel = useSidePanel({
    name: 'walk',
    label: 'Width of what is at hand',
    side: 'right',
    share: 0.28,
    min: 260,
  });
  return (
    <div className="walkstage" style={panel.style}>
      {panel.divider}
      <Transport play={play} />
      <div className="walkmain">
        <div className="plan">
          <PlanDrawing
            label={`Plan of ${scene}`}
            size={owner.decl.size}
            things={things}
            thingStyles={thingStyles}
            onPick={pick}
            onGround={walkTo}
            over={over}
          />
          <p className="walkhint">
            Arrow keys or a click on the ground walk. E uses what is at hand. Space holds time.
          </p>
        </div>
        <Log
          records={seen.records}
          cursor={seen.cursor}
          added={NONE}
          left={0}
          onCursor={(n) => play.look(n)}
        />
      </div>
      <WalkSide
        scene={scene}
        play={play}
        seen={seen}
        reachable={reachable}
        thing={thing}
        onThing={setThing}
        onStep={onStep}
        onExpect={onExpect}
      />
    </div>
  );
}
