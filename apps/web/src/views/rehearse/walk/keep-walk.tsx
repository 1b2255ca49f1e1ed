import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useSession, useSessionState } from '../../../session/session-context.js';
import { added, freeName } from '../script-edits.js';
import type { WalkPlay } from './walk-play.js';

/** Makes a rehearsal of what was walked. */
export function KeepWalk({ play }: { play: WalkPlay }): ReactNode {
  const session = useSession();
  const { id, project } = useSessionState();
  const [kept, setKept] = useState('');
  const keep = (): void => {
    const name = freeName(project, `Walk in ${play.walk.ground.scene}`);
    play.hold(true);
    const rehearsal = play.walk.kept(name);
    play.list();
    if (session.edit(added(project, rehearsal))) setKept(name);
  };
  const there = project.rehearsals?.some((r) => r.name === kept) === true;
  return (
    <>
      <button type="button" className="tick strong" onClick={keep}>
        Keep this walk
      </button>
      <span role="status" className="keptwalk">
        {there && (
          <>
            Kept.{' '}
            <Link className="word" to={`/p/${id}/rehearse?${new URLSearchParams({ name: kept }).toString()}`}>
              Open “{kept}”
            </Link>
          </>
        )}
      </span>
    </>
  );
}
