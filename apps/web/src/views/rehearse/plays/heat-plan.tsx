import { type PlayReport } from '@oquel/core';
import { useCallback, useMemo, useState, type ReactNode } from 'react';
import { PlanDrawing, type PlanSeen } from '../../../parts/plan/plan-drawing.js';
import type { ThingStyle } from '../../../parts/plan/plan-thing.js';
import { useSceneThings } from '../../../parts/plan/use-scene-things.js';
import { toScreen } from '../../../parts/plan/viewport.js';
import { useSessionState } from '../../../session/session-context.js';

const NO_STYLES: ReadonlyMap<string, ThingStyle> = new Map();
/** Pixels of the disc of what is raised most. */
const LARGEST = 46;
/** So many events are listed. */
const MOST = 12;

/** What is raised most, as a list and as discs on the plan: twice the area is twice as often. */
export function HeatPlan({ report }: { report: PlayReport }): ReactNode {
  const { index } = useSessionState();
  const scenes = useMemo(
    () => [...new Set(report.raised.map((r) => r.at.split(':', 1)[0]))].filter((s) => index.assetAt.has(s)),
    [report, index],
  );
  const [wanted, setScene] = useState('');
  const scene = scenes.includes(wanted) ? wanted : (scenes.at(0) ?? '');
  const owner = index.assets[index.assetAt.get(scene) ?? -1] as (typeof index.assets)[number] | undefined;
  const { reachable, things } = useSceneThings(index, owner);
  const heat = useMemo(() => {
    const places = new Map(reachable.map((t) => [t.path, t.at]));
    const counts = new Map<string, number>();
    for (const { at, count } of report.raised) {
      if (!at.startsWith(`${scene}:`)) continue;
      const path = at.slice(scene.length + 1);
      if (places.has(path)) counts.set(path, (counts.get(path) ?? 0) + count);
    }
    let most = 1;
    for (const n of counts.values()) most = Math.max(most, n);
    return [...counts].map(([path, n]) => ({
      path,
      at: places.get(path)!,
      r: LARGEST * Math.sqrt(n / most),
    }));
  }, [report, reachable, scene]);
  const over = useCallback(
    ({ view }: PlanSeen) =>
      heat.map(({ path, at, r }) => {
        const [x, y] = toScreen(view, at);
        return <circle key={path} className="heat" cx={x} cy={y} r={r} />;
      }),
    [heat],
  );
  const minutes = report.seconds / 60;
  return (
    <section aria-label="Raised most">
      <div className="row">
        <h3>Raised most</h3>
        {scenes.length > 1 && (
          <select
            className="line"
            aria-label="Scene of the heat"
            value={scene}
            onChange={(e) => setScene(e.target.value)}
          >
            {scenes.map((s) => (
              <option key={s}>{s}</option>
            ))}
          </select>
        )}
      </div>
      <div className="heatrow">
        <ol>
          {report.raised.slice(0, MOST).map(({ at, event, count, sessions }) => (
            <li key={`${at} ${event}`}>
              <span className="mono">
                {at} {event}
              </span>{' '}
              {count} times
              {minutes > 0 && `, ${(count / minutes).toFixed(1)} a minute`}
              {sessions > 1 && `, ${(count / sessions).toFixed(1)} a session`}
            </li>
          ))}
        </ol>
        {owner && (
          <div className="plan">
            <PlanDrawing
              label={`Heat in ${scene}`}
              size={owner.decl.size}
              things={things}
              thingStyles={NO_STYLES}
              onPick={nothing}
              over={over}
            />
          </div>
        )}
      </div>
    </section>
  );
}
function nothing(): void {}
