import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { changePassword, endSession, ownSessions } from '../../api/team.js';
import { agoText, dayText } from '../../format.js';
import { Failure } from '../../parts/team/failure.js';
import { TeamPage } from '../../parts/team/page.js';
import { PasswordField } from '../../parts/team/password-field.js';
import { Cell, DataTable, Row, RowHead } from '../../parts/ui/data-table.js';
import { signedHere } from '../../session/signed.js';

/** One's own account: the password, and where one has signed in. */
export function AccountView(): ReactNode {
  const name = signedHere().account?.name ?? '';
  return (
    <TeamPage title="Your account">
      <p>
        You are <b>{name}</b>: this is the name that stands in history, waivers and builds.
      </p>
      <h2>Change the password</h2>
      <ChangePassword />
      <h2>Where you are signed in</h2>
      <Sessions />
    </TeamPage>
  );
}

function ChangePassword(): ReactNode {
  const queries = useQueryClient();
  const [old, setOld] = useState('');
  const [password, setPassword] = useState('');
  const [said, setSaid] = useState('');
  const [failure, setFailure] = useState<unknown>(null);
  const send = async (): Promise<void> => {
    setFailure(null);
    setSaid('');
    try {
      await changePassword({ old, password });
      setOld('');
      setPassword('');
      setSaid('The password is changed. You are signed out everywhere else.');
      await queries.invalidateQueries({ queryKey: ['sessions'] });
    } catch (error) {
      setFailure(error);
    }
  };
  return (
    <form
      className="stack"
      aria-label="Change the password"
      onSubmit={(e) => {
        e.preventDefault();
        void send();
      }}
    >
      <PasswordField label="The one until now" value={old} onValue={setOld} />
      <PasswordField label="The new one" isNew value={password} onValue={setPassword} />
      <Failure of={failure} />
      {said !== '' && <p role="status">{said}</p>}
      <div>
        <button type="submit" className="tick" disabled={old === '' || password === ''}>
          Change the password
        </button>
      </div>
    </form>
  );
}

function Sessions(): ReactNode {
  const queries = useQueryClient();
  const { data, error } = useQuery({ queryKey: ['sessions'], queryFn: ownSessions, retry: 1 });
  const [failure, setFailure] = useState<unknown>(null);
  const end = async (id: string): Promise<void> => {
    setFailure(null);
    await endSession(id).catch(setFailure);
    await queries.invalidateQueries({ queryKey: ['sessions'] });
  };
  return (
    <>
      <Failure of={error ?? failure} />
      <DataTable heads={['Browser', 'Signed in', 'Last seen', { unseen: 'What can be done' }]}>
        {(data ?? []).map((s) => (
          <Row key={s.id}>
            <RowHead>{s.agent || 'it does not say what it is'}</RowHead>
            <Cell>{dayText(s.begun)}</Cell>
            <Cell>{s.isThis ? 'this one' : agoText(s.seen)}</Cell>
            <Cell>
              {!s.isThis && (
                <button type="button" className="word" onClick={() => void end(s.id)}>
                  Sign out there
                </button>
              )}
            </Cell>
          </Row>
        ))}
      </DataTable>
    </>
  );
}
