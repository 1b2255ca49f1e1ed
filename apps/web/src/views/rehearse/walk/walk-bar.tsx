import { walkersOf } from '@oquel/core';
import { useState, useSyncExternalStore, type ReactNode } from 'react';
import { Link } from 'react-router';
import { Entry, type Read } from '../../../parts/ui/entry.js';
import { useSessionState } from '../../../session/session-context.js';
import { WhoSelect } from '../who-select.js';
import { KeepWalk } from './keep-walk.js';
import type { WalkPlay } from './walk-play.js';

/** Where one walks, who walks, and what becomes of the walk. */
export function WalkBar({
  scene,
  scenes,
  loadSet,
  play,
  onScene,
  onLoadSet,
  onAgain,
}: {
  scene: string;
  scenes: readonly string[];
  loadSet: string;
  play: WalkPlay | null;
  onScene: (scene: string) => void;
  onLoadSet: (loadSet: string) => void;
  onAgain: () => void;
}): ReactNode {
  const { id, project, index } = useSessionState();
  const sets = project.loadSets ?? [];
  return (
    <div className="walkbar row">
      <Link className="word" to={`/p/${id}/rehearse`}>
        Rehearsals
      </Link>
      <label className="field">
        walk in
        <select
          className="line"
          aria-label="Scene to walk in"
          value={scene}
          onChange={(e) => onScene(e.target.value)}
        >
          {scenes.map((s) => (
            <option key={s}>{s}</option>
          ))}
        </select>
      </label>
      {sets.length > 0 && (
        <label className="field">
          loaded
          <select
            className="line"
            aria-label="What is loaded"
            value={loadSet}
            onChange={(e) => onLoadSet(e.target.value)}
          >
            <option value="">every scene</option>
            {sets.map((s) => (
              <option key={s.name}>{s.name}</option>
            ))}
          </select>
        </label>
      )}
      {play && <Who key={play.walk.ground.scene} play={play} walkers={walkersOf(index)} />}
      <span className="grow" />
      <button type="button" className="tick" disabled={!play} onClick={onAgain}>
        Begin anew
      </button>
      {play && <KeepWalk play={play} />}
    </div>
  );
}

function Who({ play, walkers }: { play: WalkPlay; walkers: readonly string[] }): ReactNode {
  const { project } = useSessionState();
  const peers = project.peers ?? [];
  useSyncExternalStore(play.onList, play.seenNow);
  const { setting } = play.walk;
  const [, setTurn] = useState(0);
  const set = (part: Parameters<typeof play.walk.set>[0]): void => {
    play.walk.set(part);
    setTurn((t) => t + 1);
  };
  return (
    <>
      <WhoSelect
        label="Who walks"
        shown="as"
        walkers={walkers}
        value={setting.activator ?? ''}
        onChange={(activator) => set({ activator })}
      />
      {peers.length > 0 && (
        <label className="field">
          on
          <select
            className="line"
            aria-label="Peer who walks"
            value={setting.by ?? ''}
            onChange={(e) => set({ by: e.target.value })}
          >
            <option value="">the authority of each</option>
            {peers.map((p) => (
              <option key={p.name}>{p.name}</option>
            ))}
          </select>
        </label>
      )}
      <Entry
        label="Walking speed"
        shown="at"
        unit="m/s"
        width={40}
        value={String(setting.speed)}
        read={(text): Read<number> => (Number(text) > 0 ? { value: Number(text) } : { error: 'more than 0' })}
        onTake={(speed) => set({ speed })}
      />
    </>
  );
}
