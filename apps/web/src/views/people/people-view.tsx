import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { changePerson, listPeople, renewPassword, type Person } from '../../api/team.js';
import { agoText, dayText } from '../../format.js';
import { Failure } from '../../parts/team/failure.js';
import { linkOf, NewSecret } from '../../parts/team/new-secret.js';
import { OpenInvitations } from '../../parts/team/open-invitations.js';
import { TeamPage } from '../../parts/team/page.js';
import { Cell, DataTable, Row, RowHead } from '../../parts/ui/data-table.js';
import { signedHere } from '../../session/signed.js';
import { InvitePerson } from './invite-person.js';
import { SecurityList } from './security-list.js';

/** Everybody on the server, for its administrators. */
export function PeopleView(): ReactNode {
  const queries = useQueryClient();
  const { data, error } = useQuery({ queryKey: ['people'], queryFn: listPeople, retry: 1 });
  const [failure, setFailure] = useState<unknown>(null);
  const [link, setLink] = useState<{ who: string; secret: string } | null>(null);
  const run = async (act: () => Promise<unknown>): Promise<void> => {
    setFailure(null);
    await act().catch(setFailure);
    await queries.invalidateQueries({ queryKey: ['people'] });
    await queries.invalidateQueries({ queryKey: ['security-log'] });
  };
  const renew = async (p: Person): Promise<void> => {
    const { secret } = await renewPassword(p.id);
    setLink({ who: p.name, secret });
    await queries.invalidateQueries({ queryKey: ['invitations'] });
  };
  return (
    <TeamPage title="People">
      <Failure of={error ?? failure} />
      {link && (
        <NewSecret
          what={`The link by which ${link.who} sets a new password.`}
          text={linkOf(link.secret)}
          onDone={() => setLink(null)}
        />
      )}
      {!data && !error && <p className="soft">Loading ...</p>}
      {data && (
        <DataTable heads={['Name', 'Sign-in name', 'May', 'Last seen', { unseen: 'What can be done' }]}>
          {data.map((p) => (
            <PersonRow
              key={p.id}
              person={p}
              onChange={(to) => void run(() => changePerson(p.id, to))}
              onRenew={() => void run(() => renew(p))}
            />
          ))}
        </DataTable>
      )}
      <h2>Invite somebody</h2>
      <InvitePerson />
      <h2>Open invitations</h2>
      <OpenInvitations project={null} />
      <h2>Security log</h2>
      <SecurityList />
    </TeamPage>
  );
}

function PersonRow({
  person: p,
  onChange,
  onRenew,
}: {
  person: Person;
  onChange: (to: { isAdministrator?: boolean; isEnded?: boolean }) => void;
  onRenew: () => void;
}): ReactNode {
  const isEnded = p.endedAt !== null;
  return (
    <Row>
      <RowHead>
        {p.name}
        {p.id === signedHere().account?.id && <span className="soft"> (you)</span>}
      </RowHead>
      <Cell>{p.login}</Cell>
      <Cell>
        {p.endedAt !== null
          ? `nothing: ended ${dayText(p.endedAt)}`
          : p.isAdministrator
            ? 'everything: administrator'
            : 'what projects let them'}
      </Cell>
      <Cell>{p.seenAt === null ? '' : agoText(p.seenAt)}</Cell>
      <Cell>
        <span className="row">
          {!isEnded && (
            <>
              <button
                type="button"
                className="word"
                onClick={() => onChange({ isAdministrator: !p.isAdministrator })}
              >
                {p.isAdministrator ? 'Administrator no more' : 'Make administrator'}
              </button>
              <button type="button" className="word" onClick={onRenew}>
                New password
              </button>
            </>
          )}
          <button type="button" className="word" onClick={() => onChange({ isEnded: !isEnded })}>
            {isEnded ? 'Bring back' : 'End the account'}
          </button>
        </span>
      </Cell>
    </Row>
  );
}
