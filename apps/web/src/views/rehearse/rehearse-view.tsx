import './rehearse.css';
import './rehearse-plan.css';
import { useCallback, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useSession, useSessionState } from '../../session/session-context.js';
import { AllPanel } from './all-panel.js';
import { OneRehearsal } from './one-rehearsal.js';
import { useRehearseAddress } from './rehearse-address.js';
import { added, freeName } from './script-edits.js';

/** The dry run: a script, what follows from it over time, and what it leaves behind. */
export function RehearseView(): ReactNode {
  const session = useSession();
  const { id, project } = useSessionState();
  const address = useRehearseAddress();
  const { shows, go } = address;
  const rehearsals = project.rehearsals ?? [];
  const rehearsal =
    rehearsals.find((r) => r.name === address.name) ?? (address.name === '' ? rehearsals[0] : undefined);
  const choose = useCallback((name: string) => go({ name, shows: '', cursor: '', thing: '' }, false), [go]);
  const create = (): void => {
    const name = freeName(project);
    if (session.edit(added(project, { name, steps: [] }))) choose(name);
  };
  return (
    <div className="rehearse">
      <h1 className="unseen">Rehearse</h1>
      <div className="rehearsebar row">
        <select
          className="line"
          aria-label="Rehearsal"
          value={rehearsal?.name ?? ''}
          onChange={(e) => choose(e.target.value)}
        >
          {!rehearsal && <option value="">choose a rehearsal</option>}
          {rehearsals.map((r) => (
            <option key={r.name}>{r.name}</option>
          ))}
        </select>
        <button type="button" className="tick" onClick={create}>
          New
        </button>
        <button
          type="button"
          className="tick"
          aria-pressed={shows === 'all'}
          onClick={() => go({ shows: shows === 'all' ? '' : 'all' }, false)}
        >
          all of them
        </button>
        <Link className="tick" to={`/p/${id}/rehearse/walk`}>
          Walk it
        </Link>
        <Link className="tick" to={`/p/${id}/rehearse/plays`}>
          Plays
        </Link>
      </div>
      {shows === 'all' ? (
        <AllPanel onOpen={choose} />
      ) : rehearsal ? (
        <OneRehearsal key={rehearsal.name} rehearsal={rehearsal} address={address} onName={choose} />
      ) : (
        <div className="middle">
          <p>
            {address.name === ''
              ? 'This project has no rehearsal yet. One is a script of what happens to the game, and what should follow.'
              : `There is no rehearsal named “${address.name}”.`}
          </p>
          <p>
            <button type="button" className="tick" onClick={create}>
              Make a new one
            </button>
          </p>
        </div>
      )}
    </div>
  );
}
