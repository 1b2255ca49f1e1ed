import type { Step, Vec2, Walk } from '@oquel/core';
import { useEffect, useState, type ReactNode } from 'react';
import { Entry, type Read } from '../../parts/ui/entry.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { stepText } from './script-edits.js';
import { WhoSelect } from './who-select.js';

/** A walk that is being drawn: its points, its speed, who walks, and the steps that follow from it. */
export function WalkPanel({
  scene,
  points,
  start,
  walkers,
  onPoints,
  onSteps,
  onClose,
}: {
  scene: string;
  points: readonly Vec2[];
  start: number;
  walkers: readonly string[];
  onPoints: (points: readonly Vec2[]) => void;
  onSteps: (steps: readonly Step[]) => void;
  onClose: () => void;
}): ReactNode {
  const session = useSession();
  const { project } = useSessionState();
  const [speed, setSpeed] = useState(4);
  const [activator, setActivator] = useState(walkers[0] ?? '');
  const [steps, setSteps] = useState<readonly Step[]>([]);
  useEffect(() => {
    if (points.length === 0) return setSteps([]);
    let current = true;
    const walk: Walk = { scene, points, speed, start, ...(activator === '' ? {} : { activator }) };
    session.walk(walk).then(
      (found) => current && setSteps(found),
      () => current && setSteps([]),
    );
    return () => {
      current = false;
    };
  }, [session, project, scene, points, speed, start, activator]);
  return (
    <section className="thingpanel" aria-label="A walk">
      <div className="row">
        <h2>A walk</h2>
        <span className="soft">click the plan, point by point</span>
        <button type="button" className="word grow" onClick={onClose}>
          Close
        </button>
      </div>
      <div className="row">
        <Entry
          label="Points of the walk"
          shown="through"
          width={230}
          value={points.map(([x, y]) => `${round(x)},${round(y)}`).join(' ')}
          placeholder="8,30 17,22"
          read={readPoints}
          onTake={onPoints}
        />
        <button
          type="button"
          className="word"
          disabled={points.length === 0}
          onClick={() => onPoints(points.slice(0, -1))}
        >
          Remove last point
        </button>
      </div>
      <div className="row">
        <Entry
          label="Walking speed"
          shown="at"
          unit="m/s"
          width={44}
          value={String(speed)}
          read={(text): Read<number> =>
            Number(text) > 0 ? { value: Number(text) } : { error: 'more than 0' }
          }
          onTake={setSpeed}
        />
        <WhoSelect
          label="Who walks"
          shown="walked by"
          walkers={walkers}
          value={activator}
          onChange={setActivator}
        />
      </div>
      <ol className="walksteps">
        {steps.slice(0, 40).map((s, i) => (
          <li key={i}>
            {s.at} s: {stepText(s)}
          </li>
        ))}
      </ol>
      {points.length > 1 && steps.length === 0 && (
        <p className="soft">It does not cross an area with listeners.</p>
      )}
      <div className="row">
        <button
          type="button"
          className="tick"
          disabled={steps.length === 0}
          onClick={() => {
            onSteps(steps);
            onClose();
          }}
        >
          {steps.length === 0
            ? 'Add its steps'
            : `Add its ${steps.length} ${steps.length === 1 ? 'step' : 'steps'}`}
        </button>
      </div>
    </section>
  );
}

function round(n: number): number {
  return Math.round(n * 100) / 100;
}
function readPoints(text: string): Read<Vec2[]> {
  const points = text
    .split(/\s+/)
    .filter(Boolean)
    .map((pair) => pair.split(',').map(Number));
  const sound = points.every((p): p is Vec2 => p.length === 2 && p.every(Number.isFinite));
  return sound ? { value: points } : { error: 'points in metres, such as 8,30 17,22' };
}
