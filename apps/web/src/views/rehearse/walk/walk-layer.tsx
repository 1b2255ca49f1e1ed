import type { Vec2 } from '@oquel/core';
import { useEffect, useRef, useSyncExternalStore, type ReactNode } from 'react';
import type { PlanSeen } from '../../../parts/plan/plan-drawing.js';
import { toScreen } from '../../../parts/plan/viewport.js';
import { Happenings } from './happenings.js';
import type { WalkPlay } from './walk-play.js';

/** The walker keeps within this share of the plan. */
const EDGE = 0.12;

/** What happens at the moment shown, and the walker. Drawn anew with each frame. */
export function WalkLayer({
  play,
  plan,
  scene,
  places,
}: {
  play: WalkPlay;
  plan: PlanSeen;
  scene: string;
  places: ReadonlyMap<string, Vec2>;
}): ReactNode {
  useSyncExternalStore(play.onFrame, play.frameNow);
  const { changes } = useSyncExternalStore(play.onList, play.seenNow);
  useFollow(play, plan);
  const { records } = play.walk;
  return (
    <g className="walklayer" aria-hidden="true">
      <Happenings
        plan={plan}
        scene={scene}
        places={places}
        records={records}
        last={play.looked?.n ?? records.length}
        byNumber={(n) => records.at(n - 1)}
        time={play.time}
        changes={changes}
      />
      <Marker play={play} plan={plan} />
    </g>
  );
}

/** The view goes along when the walker comes to its edge, and not when the plan is pushed by hand. */
function useFollow(play: WalkPlay, { view, width, height, show }: PlanSeen): void {
  const last = useRef(play.place);
  const here = play.place;
  const moved = here[0] !== last.current[0] || here[1] !== last.current[1];
  const [x, y] = toScreen(view, here);
  const isOut = x < width * EDGE || y < height * EDGE || x > width * (1 - EDGE) || y > height * (1 - EDGE);
  useEffect(() => {
    last.current = here;
    if (moved && isOut) show({ ...view, x: view.x + width / 2 - x, y: view.y + height / 2 - y });
  });
}

/** The walker: a ring with a bead on the side that it faces, and where it is bound for. */
function Marker({ play, plan }: { play: WalkPlay; plan: PlanSeen }): ReactNode {
  const [x, y] = toScreen(plan.view, play.place);
  const [fx, fy] = play.facing;
  const { target } = play;
  const to = target && toScreen(plan.view, target);
  return (
    <g
      className={play.looked ? 'walker past' : 'walker'}
      data-walker={play.place.map((v) => v.toFixed(2)).join(' ')}
    >
      {to && <path className="bound" d={`M${x} ${y}L${to[0]} ${to[1]}m-5 0h10m-5 -5v10`} />}
      <circle className="ring" cx={x} cy={y} r={9} />
      <circle className="face" cx={x + 9 * fx} cy={y + 9 * fy} r={4.5} />
    </g>
  );
}
