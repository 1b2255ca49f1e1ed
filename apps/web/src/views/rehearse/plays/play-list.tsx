import { useState, type ReactNode } from 'react';
import type { Play } from '../../../api/client.js';
import { countText, momentText } from '../../../format.js';

/** Stands in the address for all plays of the newest wiring. */
export const TOGETHER = 'together';

/** Plays, the newest first, with what each came to. */
export function PlayList({
  plays,
  chosen,
  onOpen,
  onRemove,
}: {
  plays: readonly Play[];
  chosen: string;
  onOpen: (play: string) => void;
  onRemove: (play: string) => Promise<void>;
}): ReactNode {
  const [fault, setFault] = useState('');
  const remove = (play: string): void => {
    onRemove(play).then(
      () => setFault(''),
      (error: unknown) => setFault(error instanceof Error ? error.message : String(error)),
    );
  };
  if (plays.length === 0) return null;
  const isTogether = chosen === TOGETHER;
  return (
    <section aria-label="Plays that came in">
      <h2>Plays</h2>
      {fault !== '' && (
        <p role="alert" className="fault error">
          It is not removed: {fault}.
        </p>
      )}
      <ol className="playlist">
        {plays.length > 1 && (
          <li className={isTogether ? 'chosen' : ''}>
            <button type="button" className="word" aria-current={isTogether} onClick={() => onOpen(TOGETHER)}>
              All together
            </button>
            <div className="soft">those judged by the same wiring as the newest</div>
          </li>
        )}
        {plays.map(({ id, name, at, figures: f }) => (
          <li key={id} className={id === chosen ? 'chosen' : ''}>
            <button type="button" className="word" aria-current={id === chosen} onClick={() => onOpen(id)}>
              {name}
            </button>{' '}
            <span className="soft">{momentText(at)}</span>
            <div>
              {countText(f.sessions, 'session')}, {countText(f.records, 'record')}
              {f.wrong > 0 && <b className="fault error">, {f.wrong} wrong</b>}
              {f.elsewhere > 0 && <b className="fault warning">, {f.elsewhere} elsewhere</b>}
            </div>
            <button
              type="button"
              className="word"
              aria-label={`Remove the play ${name}`}
              onClick={() => remove(id)}
            >
              Remove
            </button>
          </li>
        ))}
      </ol>
    </section>
  );
}
