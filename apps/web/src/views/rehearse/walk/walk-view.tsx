import './walk.css';
import '../rehearse.css';
import '../rehearse-plan.css';
import type { ProjectIndex } from '@oquel/core';
import { useMemo, type ReactNode } from 'react';
import { NothingYet } from '../../../parts/nothing-yet.js';
import { useQuery } from '../../../parts/use-query.js';
import { useSessionState } from '../../../session/session-context.js';
import { useWalk } from './use-walk.js';
import { WalkBar } from './walk-bar.js';
import { WalkStage } from './walk-stage.js';

/** Trying it without the game: somebody is steered over the plan of a scene, and what follows happens in its time. */
export function WalkView(): ReactNode {
  const { id, index, project } = useSessionState();
  const { params, go } = useQuery();
  const scenes = useMemo(() => scenesOf(index), [index]);
  const scene = scenes.find((s) => s === params.get('scene')) ?? scenes.at(0) ?? '';
  const sets = project.loadSets ?? [];
  const asked = params.get('set');
  const loadSet =
    asked === ALL
      ? ''
      : ((sets.find((s) => s.name === asked) ?? sets.find((s) => s.scenes.includes(scene)))?.name ?? '');
  if (scene === '') {
    return (
      <NothingYet base={`/p/${id}`} what="This project has no scene yet, so there is nowhere to walk." />
    );
  }
  return (
    <div className="walk">
      <h1 className="unseen">Walk</h1>
      <OneWalk
        key={scene}
        scene={scene}
        scenes={scenes}
        loadSet={loadSet}
        from={params.get('at') ?? ''}
        onScene={(next) => go({ scene: next, set: '', at: '' }, false)}
        onLoadSet={(next) => go({ set: next === '' ? ALL : next }, false)}
      />
    </div>
  );
}
/** In the address: all scenes are loaded. */
const ALL = '*';

function OneWalk({
  scene,
  scenes,
  loadSet,
  from,
  onScene,
  onLoadSet,
}: {
  scene: string;
  scenes: readonly string[];
  loadSet: string;
  from: string;
  onScene: (scene: string) => void;
  onLoadSet: (loadSet: string) => void;
}): ReactNode {
  const walk = useWalk({ scene, loadSet, from });
  const bar = { scene, scenes, loadSet, onScene, onLoadSet, onAgain: walk.again };
  return (
    <>
      <WalkBar {...bar} play={'play' in walk ? walk.play : null} />
      {'play' in walk && <WalkStage scene={scene} play={walk.play} />}
      {'waiting' in walk && <div className="middle">Compiling the wiring ...</div>}
      {'fault' in walk && (
        <div className="middle" role="alert">
          <p>The walk cannot begin: {walk.fault}</p>
          <p>
            <button type="button" className="tick" onClick={walk.again}>
              Try again
            </button>
          </p>
        </div>
      )}
    </>
  );
}

/** Scenes with an entry first. */
function scenesOf(index: ProjectIndex): string[] {
  const scenes = index.assets.filter((a) => a.decl.kind === 'scene');
  const hasEntry = (a: (typeof scenes)[number]): boolean => a.placements.some((p) => p.entry === true);
  return [...scenes.filter(hasEntry), ...scenes.filter((a) => !hasEntry(a))].map((a) => a.decl.id);
}
