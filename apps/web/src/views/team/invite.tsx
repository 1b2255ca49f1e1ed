import { useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { inviteMember, type Role } from '../../api/team.js';
import { Failure } from '../../parts/team/failure.js';
import { linkOf, NewSecret } from '../../parts/team/new-secret.js';
import { RoleSelect } from './role-select.js';

/** Makes a link by which somebody gets an account and a role in the project. */
export function Invite({ id }: { id: string }): ReactNode {
  const queries = useQueryClient();
  const [note, setNote] = useState('');
  const [role, setRole] = useState<Role>('designer');
  const [link, setLink] = useState<{ who: string; secret: string } | null>(null);
  const [failure, setFailure] = useState<unknown>(null);
  const send = async (): Promise<void> => {
    setFailure(null);
    try {
      const { secret } = await inviteMember(id, { note: note.trim(), role });
      setLink({ who: note.trim(), secret });
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
        aria-label="Invite"
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
        <RoleSelect label="Role offered" value={role} onValue={setRole} />
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
