import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { listInvitations, withdraw } from '../../api/team.js';
import { dayText } from '../../format.js';
import { Cell, DataTable, Row, RowHead } from '../ui/data-table.js';
import { Failure } from './failure.js';

/** Invitations that nobody has accepted yet: to the server, or to one project. */
export function OpenInvitations({ project }: { project: string | null }): ReactNode {
  const queries = useQueryClient();
  const key = ['invitations', project];
  const { data, error } = useQuery({ queryKey: key, queryFn: () => listInvitations(project) });
  const [failure, setFailure] = useState<unknown>(null);
  if (error) return <Failure of={error} />;
  if (!data || data.length === 0) return <p className="soft">No invitation is open.</p>;
  const drop = async (id: string): Promise<void> => {
    setFailure(null);
    await withdraw(project, id).catch(setFailure);
    await queries.invalidateQueries({ queryKey: key });
  };
  return (
    <>
      <DataTable heads={['For', 'As', 'Invited by', 'Holds until', { unseen: 'What can be done' }]}>
        {data.map((i) => (
          <Row key={i.id}>
            <RowHead>{i.note || 'nobody named'}</RowHead>
            <Cell>{roleOffered(i)}</Cell>
            <Cell>{i.madeBy}</Cell>
            <Cell>{dayText(i.until)}</Cell>
            <Cell>
              <button type="button" className="word" onClick={() => void drop(i.id)}>
                Withdraw
              </button>
            </Cell>
          </Row>
        ))}
      </DataTable>
      <Failure of={failure} />
    </>
  );
}
/** What an invitation makes of whoever accepts it. */
export function roleOffered(offer: {
  isAdministrator: boolean;
  role: string | null;
  projectName: string | null;
  personName: string | null;
}): string {
  if (offer.personName !== null) return 'a new password';
  if (offer.isAdministrator) return 'administrator';
  return offer.role === null ? 'an account' : `${offer.role} of ${offer.projectName}`;
}
