import { useQuery as useServer } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { newPlayToken, playTokenState } from '../../../api/client.js';
import { makeToken } from '../../../api/team.js';
import { copyText } from '../../../parts/clipboard.js';
import { momentText } from '../../../format.js';
import { useSessionState } from '../../../session/session-context.js';

/** So long a token holds that is made here, on a team's server. */
const DAYS = 90;

/** How a game sends its plays: the token, and the one line that does it. */
export function SendPanel(): ReactNode {
  const { id, access } = useSessionState();
  const [token, setToken] = useState('');
  const [fault, setFault] = useState('');
  const isAlone = access === null;
  const state = useServer({
    queryKey: ['play token', id],
    queryFn: () => playTokenState(id),
    retry: false,
    enabled: isAlone,
  });
  const make = (): void => {
    (isAlone ? newPlayToken(id) : makeToken(id, { name: 'a game', scopes: ['plays'], days: DAYS })).then(
      ({ token: made }) => {
        setFault('');
        setToken(made);
        if (isAlone) void state.refetch();
      },
      (error: Error) => setFault(error.message),
    );
  };
  const made = state.data?.at;
  const line = [
    `curl -H "Authorization: Bearer ${token}"`,
    `--data-binary @play.jsonl`,
    `"${window.location.origin}/api/projects/${id}/plays?session=NAME"`,
  ].join(' ');
  return (
    <section aria-label="Sending plays">
      <h2>Let a game send</h2>
      {token === '' ? (
        <p className="soft">
          {!isAlone ? (
            <>
              A game sends its plays with one of the <Link to={`/p/${id}/team`}>tokens of the project</Link>.
            </>
          ) : made ? (
            `There is a token since ${momentText(made)}. It was shown once; a new one takes its place.`
          ) : (
            'A game needs a token to send its plays.'
          )}
        </p>
      ) : (
        <>
          <p>The token is shown now and never again:</p>
          <p className="mono token">{token}</p>
          <pre className="mono sendline">{line}</pre>
          <p className="row">
            <button type="button" className="tick" onClick={() => void copyText(line)}>
              Copy the line
            </button>
            <a className="word" href={`/play/?project=${id}#token=${token}`} target="_blank" rel="noreferrer">
              Play the demo game with it
            </a>
          </p>
        </>
      )}
      {fault !== '' && (
        <p role="alert" className="fault error">
          There is no new token: {fault}.
        </p>
      )}
      <p>
        <button type="button" className="tick" onClick={make}>
          {made ? 'Make a new token' : 'Make a token'}
        </button>
      </p>
    </section>
  );
}
