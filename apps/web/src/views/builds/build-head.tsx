import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { sayOfBuild, type Build } from '../../api/client.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { whoIsIt } from '../../session/who.js';
import { countText, dayText } from '../../format.js';

/** A build: the gate's verdict, what people said of it and with which waivers, and what can be done with it. */
export function BuildHead({ build, onChanged }: { build: Build; onChanged: () => void }): ReactNode {
  const session = useSession();
  const { id } = useSessionState();
  const { name, note, who, at, gate, summary, waived, verdicts } = build;
  const [reason, setReason] = useState('');
  const [fault, setFault] = useState('');
  const say = async (verdict: 'through' | 'back'): Promise<void> => {
    setFault('');
    try {
      await sayOfBuild(id, build.id, { verdict, reason, who: whoIsIt() });
      setReason('');
      onChanged();
    } catch (error) {
      setFault(error instanceof Error ? error.message : String(error));
    }
  };
  const base = `/api/projects/${id}/builds/${build.id}`;
  return (
    <section className="buildhead" aria-label={`Build ${name}`}>
      <div className="row">
        <h2>{name}</h2>
        <span className="soft">
          {build.version === null ? 'imported' : `frozen at edit ${build.version}`} by {who}, {dayText(at)}
        </span>
        <span className="grow" />
        <button
          type="button"
          className="tick"
          title="One edit, which can be undone"
          onClick={() => session.restore(build.id, name)}
        >
          Restore this build
        </button>
      </div>
      {note !== '' && <p>{note}</p>}
      <div className="row">
        <b className={`fault ${gate === 'stop' ? 'error' : ''}`}>
          {gate === 'stop' ? 'The gate stopped it' : 'The gate let it pass'}:{' '}
          {countText(summary.error, 'error')}, {countText(summary.warning, 'warning')},{' '}
          {countText(summary.info, 'note')}
        </b>
        <Link to={`/p/${id}/audit?since=${build.id}`}>New since then, in Audit</Link>
        <a href={`${base}/document`}>Save the document</a>
        <a href={`${base}/audit`}>Save the audit</a>
      </div>
      <ul className="buildverdicts" aria-label="Decisions">
        {verdicts.map((v, i) => (
          <li key={i} className={i === verdicts.length - 1 ? '' : 'soft'}>
            <b>{v.who}</b> {v.verdict === 'through' ? 'approved it' : 'rejected it'}, {dayText(v.at)}
            {v.reason !== '' && `: ${v.reason}`}
          </li>
        ))}
        {waived.map((w) => (
          <li key={w.message}>
            waived by <b>{w.by}</b>
            {w.until === null ? '' : ` until ${w.until}`}: {w.message}{' '}
            <span className="soft">({w.reason})</span>
          </li>
        ))}
      </ul>
      <form className="row" aria-label="Decide on this build" onSubmit={(e) => e.preventDefault()}>
        <input
          className="line grow"
          aria-label="Reason"
          placeholder={gate === 'stop' ? 'why it is approved or rejected' : 'reason'}
          maxLength={2000}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
        />
        <button type="submit" className="tick" onClick={() => void say('through')}>
          Approve
        </button>
        <button type="button" className="tick" onClick={() => void say('back')}>
          Reject
        </button>
      </form>
      {fault !== '' && (
        <p role="alert" className="fault error">
          {fault}
        </p>
      )}
    </section>
  );
}
