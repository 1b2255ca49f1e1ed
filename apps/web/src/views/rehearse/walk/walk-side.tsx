import {
  atHand,
  walkersOf,
  type EventDecl,
  type Expectation,
  type Reachable,
  type Step,
  type Value,
  type WalkPlace,
} from '@oquel/core';
import { useMemo, useSyncExternalStore, type ReactNode } from 'react';
import { useSessionState } from '../../../session/session-context.js';
import { AddSteps } from '../add-steps.js';
import { RecordPanel } from '../record-panel.js';
import { StatesPanel } from '../states-panel.js';
import { ThingPanel } from '../thing-panel.js';
import type { Seen, WalkPlay } from './walk-play.js';

/** So many things to press are listed; the others are pressed on the plan. */
const MOST = 12;

/** What is at hand, the thing or the record that is looked at, and what has changed. */
export function WalkSide({
  scene,
  play,
  seen,
  reachable,
  thing,
  onThing,
  onStep,
  onExpect,
}: {
  scene: string;
  play: WalkPlay;
  seen: Seen;
  reachable: readonly Reachable[];
  thing: string;
  onThing: (path: string) => void;
  onStep: (step: Step) => void;
  onExpect: (expect: Expectation) => void;
}): ReactNode {
  const { id, index } = useSessionState();
  const chosen = reachable.find((t) => t.path === thing);
  const changed = useMemo(() => {
    const values = new Map<string, Value>();
    for (const { at, what, now } of seen.changes) {
      if (at === `${scene}:${thing}` && typeof what === 'object' && 'property' in what)
        values.set(what.property, now);
    }
    return values;
  }, [seen, scene, thing]);
  const expected = useMemo(
    () => new Set(play.walk.steps.flatMap((s) => ('expect' in s ? [JSON.stringify(s.expect)] : []))),
    // The steps grow with what has happened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [play, seen],
  );
  const here = play.looked ? seen.records.at(seen.cursor - 1) : undefined;
  const byNumber = seen.records.at((here?.cause ?? 0) - 1);
  const { setting } = play.walk;
  const walkers = useMemo(() => {
    const all = walkersOf(index);
    const first = setting.activator ?? '';
    return first === '' ? all : [first, ...all.filter((w) => w !== first)];
  }, [index, setting]);
  return (
    <div className="walkside">
      {chosen ? (
        <ThingPanel
          key={thing}
          index={index}
          thing={chosen}
          address={`${scene}:${thing}`}
          at={play.time / 1e6}
          changed={changed}
          walkers={walkers}
          onStep={onStep}
          onExpect={onExpect}
          onClose={() => onThing('')}
        />
      ) : (
        <AtHand play={play} reachable={reachable} onThing={onThing} onStep={onStep} />
      )}
      {here && (
        <RecordPanel
          index={index}
          base={`/p/${id}`}
          record={here}
          cause={here.cause > 0 ? byNumber : undefined}
          onCursor={(n) => play.look(n)}
          onPlan={(at) => onThing(at.startsWith(`${scene}:`) ? at.slice(scene.length + 1) : '')}
        />
      )}
      <StatesPanel
        title={play.looked ? 'Changed until then' : 'Changed so far'}
        changes={seen.changes}
        expected={expected}
        onExpect={onExpect}
      />
      <details className="byhand">
        <summary>By hand: a channel, a typed event, a pause of the game</summary>
        <AddSteps at={Math.round(play.time / 1e5) / 10} onStep={onStep} />
      </details>
    </div>
  );
}

/** What can be used from here, and what can be pressed. */
function AtHand({
  play,
  reachable,
  onThing,
  onStep,
}: {
  play: WalkPlay;
  reachable: readonly Reachable[];
  onThing: (path: string) => void;
  onStep: (step: Step) => void;
}): ReactNode {
  const { ground } = play.walk;
  // A text, so that it is drawn anew only when something else is at hand.
  const near = useSyncExternalStore(play.onFrame, () =>
    atHand(ground, play.place)
      .map((p) => p.path)
      .join('\n'),
  );
  const inside = useSyncExternalStore(play.onFrame, () => [...play.inside].join(', '));
  const byPath = useMemo(() => new Map(reachable.map((t) => [t.path, t])), [reachable]);
  const places = useMemo(() => new Map(ground.places.map((p) => [p.path, p])), [ground]);
  const pressed = useMemo(() => ground.places.filter((p) => p.press.length > 0), [ground]);
  const action = (place: WalkPlace, name: string, word: string): ReactNode => {
    const event = byPath.get(place.path)?.asset.events.find((e) => e.name === name);
    const asks = event && asksFor(event);
    return (
      <li key={`${place.path} ${name}`}>
        <button
          type="button"
          className="tick"
          onClick={() =>
            asks ? onThing(place.path) : onStep({ at: 0, raise: play.walk.raiseOf(place.address, name, {}) })
          }
        >
          {word} <span className="mono">{place.path}</span>
        </button>{' '}
        <span className="soft">{asks ? `${name}, which asks for values` : name}</span>
      </li>
    );
  };
  const usable = near === '' ? [] : near.split('\n').flatMap((path) => places.get(path) ?? []);
  return (
    <section className="athand" aria-label="At hand">
      <h2>At hand</h2>
      <p className="soft">{inside === '' ? 'In no area.' : `In ${inside}.`}</p>
      {usable.length === 0 && <p className="soft">Nothing to use from here.</p>}
      <ul className="actionlist">{usable.flatMap((p) => p.use.map((name) => action(p, name, 'use')))}</ul>
      {pressed.length > 0 && (
        <ul className="actionlist">
          {pressed.slice(0, MOST).flatMap((p) => p.press.map((name) => action(p, name, 'press')))}
        </ul>
      )}
      {pressed.length > MOST && (
        <p className="soft">and {pressed.length - MOST} more, which are pressed on the plan</p>
      )}
      <p>
        <button type="button" className="word" onClick={() => onThing('.')}>
          Events of the scene itself
        </button>
      </p>
    </section>
  );
}

function asksFor(event: EventDecl): boolean {
  return event.payload?.some((f) => f.optional !== true) === true;
}
