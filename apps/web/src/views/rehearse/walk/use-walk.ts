import {
  LiveWalk,
  startBeside,
  walkScene,
  walkersOf,
  walkWiring,
  type CompiledWiring,
  type ProjectIndex,
  type WalkScene,
} from '@oquel/core';
import { useEffect, useState } from 'react';
import type { ProjectSession } from '../../../session/project-session.js';
import { useSession, useSessionState } from '../../../session/session-context.js';
import { inSlices } from '../../../workers/in-slices.js';
import { WalkPlay } from './walk-play.js';

/** Metres a second at first. */
const SPEED = 4;

interface Kept {
  scene: string;
  loadSet: string;
  play: WalkPlay;
}
/** The walk of each open project: it is still there when one comes back from Wire. */
const walks = new WeakMap<ProjectSession, Kept>();

export interface WalkAsk {
  scene: string;
  /** Empty for all scenes. */
  loadSet: string;
  /** What it begins at, where it has not begun yet; empty for the entry. */
  from: string;
}
export type WalkNow = { play: WalkPlay } | { fault: string } | { waiting: true };

/** A walk through a scene: begun, or taken up again, and run with the wiring as it is after each edit. */
export function useWalk({ scene, loadSet, from }: WalkAsk): WalkNow & { again: () => void } {
  const session = useSession();
  const { index, project } = useSessionState();
  const [now, setNow] = useState<WalkNow>({ waiting: true });
  const [turn, setTurn] = useState(0);
  useEffect(() => {
    let current = true;
    const ready = (compiled: CompiledWiring | null): void => {
      if (!current) return;
      const ground = walkScene(index, scene);
      if (!ground) return setNow({ fault: `There is no scene called ${scene}.` });
      if (!compiled) return setNow({ fault: `There is no load set called ${loadSet}.` });
      const kept = walks.get(session);
      if (kept?.scene === scene && kept.loadSet === loadSet && turn === 0) {
        kept.play.rewire(compiled, ground);
        return setNow({ play: kept.play });
      }
      const play = new WalkPlay(begun(index, compiled, ground, { scene, loadSet, from }));
      walks.set(session, { scene, loadSet, play });
      setTurn(0);
      setNow({ play });
    };
    // Here and not in the audit worker: what is compiled is so many small objects that sending them takes longer.
    inSlices(walkWiring(index, loadSet === '' ? undefined : loadSet), () => current).then(
      ready,
      (error: unknown) => {
        if (current) setNow({ fault: error instanceof Error ? error.message : String(error) });
      },
    );
    return () => {
      current = false;
    };
    // What it begins at is of no account once it has begun.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [session, project, index, scene, loadSet, turn]);
  return { ...now, again: () => setTurn(1) };
}

function begun(index: ProjectIndex, compiled: CompiledWiring, ground: WalkScene, ask: WalkAsk): LiveWalk {
  const activator = ground.walker || walkersOf(index)[0];
  const by = index.project.peers?.[0]?.name;
  return new LiveWalk(
    compiled,
    ground,
    {
      speed: SPEED,
      ...(ask.loadSet === '' ? {} : { loadSet: ask.loadSet }),
      ...(activator ? { activator } : {}),
      ...(by ? { by } : {}),
    },
    ask.from === '' ? ground.start : startBeside(ground, ask.from),
  );
}
