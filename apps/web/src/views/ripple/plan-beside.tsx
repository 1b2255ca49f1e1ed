import { entryText, type Ripple, type RippleEntry } from '@oquel/core';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { PlanDrawing } from '../../parts/plan/plan-drawing.js';
import type { ThingStyle } from '../../parts/plan/plan-thing.js';
import { useSplit } from '../../parts/ui/splitter.js';
import { useSceneThings } from '../../parts/plan/use-scene-things.js';
import { useSessionState } from '../../session/session-context.js';
import { useMoments } from './use-moments.js';

interface Props {
  ripple: Ripple;
  /** The entry that is looked at, and how another is chosen. */
  chosen: string;
  onChoose: (key: string) => void;
  /** What happens at the moment that is shown, by keys. */
  onMoment: (keys: ReadonlySet<string> | null) => void;
}
/** Entries that the line below the plan names. */
const MOST_NAMED = 3;

/** The plan of a scene beside the ripple: what happens is lit where it is, hop by hop, and played back over time. */
export function PlanBeside({ ripple, chosen, onChoose, onMoment }: Props): ReactNode {
  const { index } = useSessionState();
  const { moments, at, setAt, playing, setPlaying } = useMoments(ripple);
  const byKey = useMemo(() => new Map(ripple.entries.map((e) => [e.key, e])), [ripple]);
  const scenes = useMemo(() => [...new Set(ripple.entries.flatMap((e) => e.scenes))], [ripple]);
  const { size, divider } = useSplit({
    name: 'ripple.plan',
    label: 'Width of the plan',
    axis: 'x',
    first: 420,
    min: 260,
    max: 1200,
    sign: -1,
  });
  const [wanted, setScene] = useState('');
  const scene = scenes.includes(wanted) ? wanted : (scenes[0] ?? '');
  const owner = index.assets[index.assetAt.get(scene) ?? -1];
  const { things } = useSceneThings(index, owner);
  const now = useMemo(() => new Set(moments[at]?.keys ?? []), [moments, at]);
  useEffect(() => {
    onMoment(now);
    return () => onMoment(null);
  }, [now, onMoment]);
  const thingStyles = useMemo(() => {
    const found = new Map<string, ThingStyle>();
    const light = (keys: Iterable<string>, look: ThingStyle): void => {
      for (const key of keys) {
        for (const address of byKey.get(key)?.at ?? []) {
          if (address.startsWith(`${scene}:`)) found.set(address.slice(scene.length + 1), look);
        }
      }
    };
    for (const t of things) found.set(t.path, { faded: true });
    for (const m of moments.slice(0, at)) light(m.keys, { lit: true });
    light(now, { picked: true });
    if (chosen !== '') light([chosen], { chosen: true });
    return found;
  }, [things, moments, at, now, byKey, scene, chosen]);
  const entries = [...now].flatMap((key) => byKey.get(key) ?? []);
  const elsewhere = [...new Set(entries.flatMap((e) => e.scenes))].filter((s) => s !== scene);
  const pick = (path: string): void => {
    const address = `${scene}:${path}`;
    const hit = ripple.entries.find((e) => e.at.includes(address));
    if (!hit) return;
    onChoose(hit.key);
    setAt(moments.findIndex((m) => m.keys.includes(hit.key)));
  };
  return (
    <section className="ripplebeside" aria-label="Plan" style={{ width: size }}>
      {divider}
      <div className="row">
        <select
          className="line"
          aria-label="Scene on the plan"
          value={scene}
          onChange={(e) => setScene(e.target.value)}
        >
          {scenes.map((s) => (
            <option key={s}>{s}</option>
          ))}
        </select>
        <button type="button" className="tick" aria-pressed={playing} onClick={() => setPlaying(!playing)}>
          {playing ? 'Pause' : 'Play'}
        </button>
        <input
          type="range"
          aria-label="Moment"
          aria-valuetext={moments[at] ? momentText(moments[at].hop, moments[at].seconds) : ''}
          min={0}
          max={Math.max(0, moments.length - 1)}
          value={at}
          onChange={(e) => {
            setPlaying(false);
            setAt(Number(e.target.value));
          }}
        />
      </div>
      <div className="plan">
        {owner && (
          <PlanDrawing
            label={`Plan of ${scene}`}
            size={owner.decl.size}
            things={things}
            thingStyles={thingStyles}
            onPick={pick}
          />
        )}
      </div>
      <p role="status" aria-label="Moment shown">
        {moments[at] && <b>{momentText(moments[at].hop, moments[at].seconds)}: </b>}
        {entriesText(entries)}
        {elsewhere.length > 0 && <span className="soft"> · also in {elsewhere.join(', ')}</span>}
      </p>
    </section>
  );
}

function momentText(hop: number, seconds: number): string {
  const where = hop === 0 ? 'start' : Number.isInteger(hop) ? `hop ${hop}` : 'channel';
  return `${where}, ${seconds} s`;
}
function entriesText(entries: readonly RippleEntry[]): string {
  const named = entries.slice(0, MOST_NAMED).map(entryText).join(', ');
  const more = entries.length - MOST_NAMED;
  return more > 0 ? `${named} and ${more} more` : named;
}
