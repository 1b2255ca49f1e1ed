import { useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import type { Invited } from '../../api/team.js';
import { Failure } from './failure.js';
import { linkOf, NewSecret } from './new-secret.js';

/** Makes a link by which somebody gets an account; `children` is what else it offers. */
export function InviteForm({
  label,
  children,
  onInvite,
}: {
  label: string;
  children: ReactNode;
  onInvite: (note: string) => Promise<Invited>;
}): ReactNode {
  const queries = useQueryClient();
  const [note, setNote] = useState('');
  const [link, setLink] = useState<{ who: string; secret: string } | null>(null);
  const [failure, setFailure] = useState<unknown>(null);
  const who = note.trim();
  const send = async (): Promise<void> => {
    setFailure(null);
    try {
      const { secret } = await onInvite(who);
      setLink({ who, secret });
      setNote('');
      await queries.invalidateQueries({ queryKey: ['invitations'] });
    } catch (error) {
      setFailure(error);
    }
  };
  return (
    <>
      <form
        className="row"
        aria-label={label}
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
        {children}
        <button type="submit" className="tick" disabled={who === ''}>
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
