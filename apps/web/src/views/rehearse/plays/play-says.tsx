import {
  codeBinding,
  missingText,
  playedByAsset,
  secondsText,
  servedInPlay,
  type PlayReport,
} from '@oquel/core';
import { useMemo, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { countText } from '../../../format.js';
import { bindingPlace, instancePlace } from '../../../parts/places.js';
import { useSession, useSessionState } from '../../../session/session-context.js';
import { added, freeName } from '../script-edits.js';
import { HeatPlan } from './heat-plan.js';
import { PlayedTable } from './played-table.js';
import { assetOfOwner } from './owner.js';

/** So many of each kind are listed. */
const MOST = 100;
type Reported = PlayReport['missing'][number] | PlayReport['doubled'][number] | PlayReport['despite'][number];

/** What one play, or file, says of the wiring: the gravest first. */
export function PlaySays({ name, report: r }: { name: string; report: PlayReport }): ReactNode {
  const { index, project } = useSessionState();
  const session = useSession();
  const [kept, setKept] = useState('');
  const played = useMemo(() => playedByAsset(index, r), [index, r]);
  const wrong = r.missing.length + r.doubled.length + r.order.length + r.despite.length;
  const keep = (rehearsal: PlayReport['rehearsals'][number]): void => {
    const free = freeName(project, rehearsal.name);
    if (session.edit(added(project, { ...rehearsal, name: free }))) setKept(free);
  };
  return (
    <article aria-label={`What ${name} says`}>
      <h2>{name}</h2>
      <p>
        {countText(r.records, 'record')} of {countText(r.sessions, 'session')}, {r.seconds} s of play.{' '}
        <b>
          {r.coverage.served} of {r.coverage.of}
        </b>{' '}
        bindings have served.{' '}
        {wrong === 0 && r.records > 0 && (
          <b className="fault good">Everything that should have followed did.</b>
        )}
      </p>
      {r.build !== undefined && <p>Judged by the build “{r.build}”, whose wiring the game has run.</p>}
      {r.others.map(({ wiring, sessions }) => (
        <p key={wiring} className="fault warning">
          {countText(sessions, 'session')} ran other wiring ({wiring.slice(0, 12)}), so what is said of it may
          be wrong.
        </p>
      ))}
      <ReportedList title="Should have followed, and did not" list={r.missing} say={(m) => missingText(m)} />
      <ReportedList
        title="Done twice"
        list={r.doubled}
        say={(d) => `binding ${d.binding} of ${d.owner}: ${d.at} ${d.action}`}
      />
      {r.order.length > 0 && (
        <section aria-label="In another order">
          <h3>In another order</h3>
          <ul>
            {r.order.slice(0, MOST).map((o) => (
              <li key={JSON.stringify([o.late, o.early])}>
                <BindingLink owner={o.late.owner} binding={o.late.binding} /> came after{' '}
                <BindingLink owner={o.early.owner} binding={o.early.binding} /> <Often of={o} />
              </li>
            ))}
          </ul>
        </section>
      )}
      <ReportedList
        title="Happened though the wiring does not let it"
        list={r.despite}
        say={(d) => `${d.at} ${d.name}: ${d.reason}`}
      />
      {r.unexplained.length > 0 && (
        <section aria-label="Done by other code">
          <h3>Done by other code</h3>
          <ul>
            {r.unexplained.slice(0, MOST).map((u) => {
              const edit = codeBinding(index, u);
              return (
                <li key={`${u.at} ${u.action}`}>
                  <span className="mono">
                    {u.at} {u.action}
                  </span>
                  {u.after && `, after ${u.after.at} ${u.after.event}`} <Often of={u} />{' '}
                  {edit && (
                    <button type="button" className="word" onClick={() => session.edit(edit)}>
                      Note it as a binding of the code
                    </button>
                  )}
                </li>
              );
            })}
          </ul>
        </section>
      )}
      {r.unknown.length > 0 && (
        <section aria-label="Not known to the project">
          <h3>Not known to the project</h3>
          <ul>
            {r.unknown.slice(0, MOST).map((u) => (
              <li key={`${u.what} ${u.name}`}>
                the {u.what} <span className="mono">{u.name}</span> <Often of={u} />
              </li>
            ))}
          </ul>
        </section>
      )}
      {r.broken.count > 0 && (
        <section aria-label="Broken lines">
          <h3>{countText(r.broken.count, 'line')} could not be read</h3>
          <ul>
            {r.broken.lines.slice(0, MOST).map(({ source, line, why }) => (
              <li key={`${source}:${line}`}>
                {source}, line {line} {why}
              </li>
            ))}
          </ul>
        </section>
      )}
      <PlayedTable played={played} />
      <p>
        <button
          type="button"
          className="tick"
          onClick={() => session.showPlayed({ name, served: servedInPlay(index, r) })}
        >
          Show it on the wiring
        </button>{' '}
        <span className="soft">on Wire, Plan, Ripple and Crossings, in place of what is rehearsed</span>
      </p>
      {r.raised.length > 0 && <HeatPlan report={r} />}
      {r.rehearsals.length > 0 && (
        <section aria-label="As rehearsals">
          <h3>As rehearsals</h3>
          <ul>
            {r.rehearsals.map((rehearsal) => (
              <li key={rehearsal.name}>
                {rehearsal.name}, {countText(rehearsal.steps.length, 'step')}{' '}
                <button type="button" className="word" onClick={() => keep(rehearsal)}>
                  Keep it
                </button>
              </li>
            ))}
          </ul>
          <p role="status">{kept !== '' && <KeptLink name={kept} />}</p>
        </section>
      )}
    </article>
  );
}

function KeptLink({ name }: { name: string }): ReactNode {
  const { id } = useSessionState();
  return (
    <>
      Kept.{' '}
      <Link className="word" to={`/p/${id}/rehearse?${new URLSearchParams({ name }).toString()}`}>
        Open “{name}”
      </Link>
    </>
  );
}

function ReportedList<T extends Reported>({
  title,
  list,
  say,
}: {
  title: string;
  list: readonly T[];
  say: (of: T) => string;
}): ReactNode {
  if (list.length === 0) return null;
  return (
    <section aria-label={title}>
      <h3>{title}</h3>
      <ul>
        {list.slice(0, MOST).map((of) => (
          <li key={say(of)}>
            {say(of)} <Often of={of} />{' '}
            {'binding' in of ? (
              <BindingLink owner={of.owner} binding={of.binding} shown="Open in Wire" />
            ) : (
              'at' in of && <PlaceLink at={of.at} />
            )}
          </li>
        ))}
      </ul>
      {list.length > MOST && <p className="soft">and {list.length - MOST} more</p>}
    </section>
  );
}
function Often({
  of: { count, sessions, first },
}: {
  of: Pick<Reported, 'count' | 'sessions' | 'first'>;
}): ReactNode {
  return (
    <span className="soft">
      {count === 1 ? 'once' : `${count} times`}
      {sessions > 1 && ` in ${sessions} sessions`}, first on line {first.line}
      {sessions > 1 && ` of ${first.source}`} at {secondsText(first.t)}
    </span>
  );
}
function BindingLink({
  owner,
  binding,
  shown = binding,
}: {
  owner: string;
  binding: string;
  shown?: string;
}): ReactNode {
  const { id, index } = useSessionState();
  const asset = assetOfOwner(index, owner);
  const place = asset === null ? null : bindingPlace(index, `/p/${id}`, asset, binding);
  return place ? (
    <Link className="word" to={place.href}>
      {shown}
    </Link>
  ) : (
    <span className="mono">{binding}</span>
  );
}
function PlaceLink({ at }: { at: string }): ReactNode {
  const { id, index } = useSessionState();
  const place = instancePlace(index, `/p/${id}`, at.replace(/#\d+/g, ''));
  return (
    place && (
      <Link className="word" to={place.href}>
        Open in Wire
      </Link>
    )
  );
}
