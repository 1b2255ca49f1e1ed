import {
  useCallback,
  useEffect,
  useMemo,
  useReducer,
  useState,
  useSyncExternalStore,
  type ReactNode,
} from 'react';
import { PlanDrawing, type PlanSeen } from '../../../parts/plan/plan-drawing.js';
import type { ThingStyle } from '../../../parts/plan/plan-thing.js';
import { useSceneThings } from '../../../parts/plan/use-scene-things.js';
import { useSessionState } from '../../../session/session-context.js';
import { Happenings } from '../walk/happenings.js';
import { LiveFeed } from './live-feed.js';

const NO_STYLES: ReadonlyMap<string, ThingStyle> = new Map();

/** While a game sends, what happens in it is drawn on the plan as in a walk. Nothing is here while none does. */
export function LivePlay(): ReactNode {
  const { id, index } = useSessionState();
  const [feed] = useState(() => new LiveFeed());
  const [, drawn] = useReducer((n: number) => n + 1, 0);
  const [scene, setScene] = useState('');
  useEffect(() => {
    const source = new EventSource(`/api/projects/${id}/plays/live`);
    source.addEventListener('lines', (e: MessageEvent<string>) => {
      feed.take(JSON.parse(e.data) as { session: string; lines: string[] }, performance.now());
      drawn();
    });
    // Whether it still sends is looked at now and then.
    const timer = setInterval(drawn, 1000);
    return () => {
      source.close();
      clearInterval(timer);
    };
  }, [id, feed]);
  const last = feed.records.findLast((r) => 'at' in r);
  const shown = scene !== '' ? scene : last && 'at' in last ? last.at.split(':', 1)[0] : '';
  const owner = index.assets[index.assetAt.get(shown) ?? -1] as (typeof index.assets)[number] | undefined;
  const { reachable, things } = useSceneThings(index, owner);
  const places = useMemo(() => new Map(reachable.map((t) => [t.path, t.at])), [reachable]);
  const over = useCallback(
    (plan: PlanSeen) => <Layer feed={feed} plan={plan} scene={shown} places={places} />,
    [feed, shown, places],
  );
  if (!feed.isSending(performance.now()) || !owner) return null;
  return (
    <section className="liveplay" aria-label="A game is sending">
      <div className="row">
        <h2>{feed.session} is sending</h2>
        <label className="field">
          seen in
          <select
            className="line"
            aria-label="Scene that is seen"
            value={shown}
            onChange={(e) => setScene(e.target.value)}
          >
            {index.assets
              .filter((a) => a.decl.kind === 'scene')
              .map((a) => (
                <option key={a.decl.id}>{a.decl.id}</option>
              ))}
          </select>
        </label>
      </div>
      <div className="plan">
        <PlanDrawing
          label={`What happens in ${shown}`}
          size={owner.decl.size}
          things={things}
          thingStyles={NO_STYLES}
          onPick={nothing}
          over={over}
        />
      </div>
    </section>
  );
}
function nothing(): void {}

function Layer({
  feed,
  plan,
  scene,
  places,
}: {
  feed: LiveFeed;
  plan: PlanSeen;
  scene: string;
  places: ReadonlyMap<string, [number, number]>;
}): ReactNode {
  const now = useSyncExternalStore(onFrame, frameTime);
  return (
    <g className="walklayer" aria-hidden="true">
      <Happenings
        plan={plan}
        scene={scene}
        places={places}
        records={feed.records}
        last={feed.records.length}
        byNumber={feed.of}
        time={feed.timeAt(now)}
        changes={feed.changes}
      />
    </g>
  );
}
/** The time of the last frame, for whoever draws each frame. */
let frameAt = 0;
const frameTime = (): number => frameAt;
function onFrame(listener: () => void): () => void {
  let request = 0;
  const turn = (): void => {
    frameAt = performance.now();
    listener();
    request = requestAnimationFrame(turn);
  };
  request = requestAnimationFrame(turn);
  return () => cancelAnimationFrame(request);
}
