import '../walk/walk.css';
import './plays.css';
import type { PlayReport } from '@oquel/core';
import { useQuery as useServer } from '@tanstack/react-query';
import { useEffect, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { listPlays, playReport, playsTogether, removePlay } from '../../../api/client.js';
import { useSidePanel } from '../../../parts/ui/side-panel.js';
import { useQuery } from '../../../parts/use-query.js';
import { useSession, useSessionState } from '../../../session/session-context.js';
import { FilePlay } from './file-play.js';
import { LivePlay } from './live-play.js';
import { PlayList, TOGETHER } from './play-list.js';
import { PlaySays } from './play-says.js';
import { SendPanel } from './send-panel.js';

/** What running games have written, and what that says of the wiring. */
export function PlaysView(): ReactNode {
  const session = useSession();
  const { id, playsChanged, rehearsed } = useSessionState();
  // What rehearsals use stands beside what plays do.
  useEffect(() => {
    if (!rehearsed) session.rehearseAll().catch(() => undefined);
  }, [session, rehearsed]);
  const { params, go } = useQuery();
  const [fromFile, setFromFile] = useState<{ name: string; report: PlayReport } | null>(null);
  const plays = useServer({
    queryKey: ['plays', id, playsChanged],
    queryFn: () => listPlays(id),
    placeholderData: (old) => old,
    retry: false,
  });
  const list = plays.data ?? [];
  const isTogether = params.get('play') === TOGETHER && list.length > 1;
  const chosen = list.find((p) => p.id === params.get('play')) ?? list.at(0);
  const report = useServer({
    queryKey: ['play', id, chosen?.id],
    queryFn: () => playReport(id, chosen!.id),
    enabled: chosen !== undefined && !isTogether,
    staleTime: Infinity,
    retry: false,
  });
  const together = useServer({
    queryKey: ['plays together', id, playsChanged],
    queryFn: () => playsTogether(id),
    enabled: isTogether,
    retry: false,
  });
  const shown = isTogether
    ? together.data && {
        key: TOGETHER,
        name: togetherText(together.data.plays),
        report: together.data.report,
      }
    : report.data && chosen && { key: chosen.id, name: chosen.name, report: report.data };
  const fault = isTogether ? together.error : report.error;
  const panel = useSidePanel({
    name: 'plays',
    label: 'Width of the list of plays',
    side: 'left',
    share: 0.27,
    min: 260,
  });
  const open = (play: string): void => {
    setFromFile(null);
    go({ play }, false);
  };
  return (
    <div className="plays" style={panel.style}>
      {panel.divider}
      <h1 className="unseen">Plays</h1>
      <div className="playside">
        <p className="row">
          <Link className="word" to={`/p/${id}/rehearse`}>
            Rehearsals
          </Link>
          <Link className="word" to={`/p/${id}/rehearse/walk`}>
            Walk
          </Link>
        </p>
        {plays.error && (
          <p role="alert" className="fault error">
            The plays cannot be read: {plays.error.message}.{' '}
            <button type="button" className="word" onClick={() => void plays.refetch()}>
              Try again
            </button>
          </p>
        )}
        {!plays.data && !plays.error && <p className="soft">Loading plays ...</p>}
        {plays.data && (
          <PlayList
            plays={list}
            chosen={fromFile ? '' : isTogether ? TOGETHER : (chosen?.id ?? '')}
            onOpen={open}
            onRemove={(play) => removePlay(id, play).then(() => void plays.refetch())}
          />
        )}
        <FilePlay onReport={setFromFile} />
        <SendPanel />
      </div>
      <div className="playsays">
        <LivePlay />
        {fromFile ? (
          <PlaySays
            key={fromFile.name}
            name={`${fromFile.name}, which is not kept`}
            report={fromFile.report}
          />
        ) : shown ? (
          <PlaySays key={shown.key} name={shown.name} report={shown.report} />
        ) : fault ? (
          <p role="alert" className="middle fault error">
            {isTogether ? 'These plays' : 'This play'} cannot be read: {fault.message}.{' '}
            <button
              type="button"
              className="word"
              onClick={() => void (isTogether ? together : report).refetch()}
            >
              Try again
            </button>
          </p>
        ) : chosen ? (
          <p className="middle">Loading ...</p>
        ) : (
          <div className="middle">
            <p>No game has sent a play yet.</p>
            <p>
              Make a token beside this, and let your game send what it writes; or judge a file that it has
              written.
            </p>
          </div>
        )}
      </div>
    </div>
  );
}

function togetherText(plays: number): string {
  return `Plays of the newest wiring: ${plays}`;
}
