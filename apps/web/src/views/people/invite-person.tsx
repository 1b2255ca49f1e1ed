import { useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { invite } from '../../api/team.js';
import { Failure } from '../../parts/team/failure.js';
import { linkOf, NewSecret } from '../../parts/team/new-secret.js';

/** Makes a link by which somebody gets an account. */
export function InvitePerson(): ReactNode {
  const queries = useQueryClient();
  const [note, setNote] = useState('');
  const [isAdministrator, setAdministrator] = useState(false);
  const [link, setLink] = useState<{ who: string; secret: string } | null>(null);
  const [failure, setFailure] = useState<unknown>(null);
  const send = async (): Promise<void> => {
    setFailure(null);
    try {
      const { secret } = await invite({ note: note.trim(), isAdministrator });
      setLink({ who: note.trim(), secret });
      setNote('');
      setAdministrator(false);
      await queries.invalidateQueries({ queryKey: ['invitations'] });
    } catch (error) {
      setFailure(error);
    }
  };
  return (
    <>
      <form
        className="row"
        aria-label="Invite somebody"
        onSubmit={(e) => {
          e.preventDefault();
          void send();
        }}
      >
        <input
          className="line"
          aria-label="Whom it is for"
          placeholder="whom it is for"
          maxLength={200}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
        <label className="field">
          <input
            type="checkbox"
            checked={isAdministrator}
            onChange={(e) => setAdministrator(e.target.checked)}
          />
          as administrator
        </label>
        <button type="submit" className="tick" disabled={note.trim() === ''}>
          Make a link
        </button>
      </form>
      <Failure of={failure} />
      {link && (
        <NewSecret
          what={`The link for ${link.who}.`}
          text={linkOf(link.secret)}
          onDone={() => setLink(null)}
        />
      )}
    </>
  );
}
