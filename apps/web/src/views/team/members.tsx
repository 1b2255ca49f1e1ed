import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { listMembers, peopleNames, setRole, type Role } from '../../api/team.js';
import { Failure } from '../../parts/team/failure.js';
import { Cell, DataTable, Row, RowHead } from '../../parts/ui/data-table.js';
import { signedHere } from '../../session/signed.js';
import { RoleSelect } from './role-select.js';
import { ROLE_MEANS } from './roles.js';

/** Who has which role; a lead changes them, and adds people who have an account. */
export function Members({ id, isLead }: { id: string; isLead: boolean }): ReactNode {
  const queries = useQueryClient();
  const key = ['members', id];
  const { data, error } = useQuery({ queryKey: key, queryFn: () => listMembers(id), retry: 1 });
  const [failure, setFailure] = useState<unknown>(null);
  const give = async (person: string, role: Role | null): Promise<void> => {
    setFailure(null);
    await setRole(id, person, role).catch(setFailure);
    await queries.invalidateQueries({ queryKey: key });
  };
  const own = signedHere().account?.id;
  return (
    <>
      <Failure of={error ?? failure} />
      {data?.length === 0 && <p className="soft">Nobody has a role yet; administrators may do everything.</p>}
      {data && data.length > 0 && (
        <DataTable heads={['Name', 'Role', { unseen: 'What can be done' }]}>
          {data.map((m) => (
            <Row key={m.account}>
              <RowHead>
                {m.name}
                {m.account === own && <span className="soft"> (you)</span>}
              </RowHead>
              <Cell>
                {isLead ? (
                  <RoleSelect
                    label={`Role of ${m.name}`}
                    value={m.role}
                    onValue={(role) => void give(m.account, role)}
                  />
                ) : (
                  `${m.role}: ${ROLE_MEANS[m.role]}`
                )}
              </Cell>
              <Cell>
                {isLead && (
                  <button type="button" className="word" onClick={() => void give(m.account, null)}>
                    Take the role away
                  </button>
                )}
              </Cell>
            </Row>
          ))}
        </DataTable>
      )}
      {isLead && <AddMember id={id} members={new Set(data?.map((m) => m.account))} onGive={give} />}
    </>
  );
}

function AddMember({
  id,
  members,
  onGive,
}: {
  id: string;
  members: ReadonlySet<string>;
  onGive: (person: string, role: Role) => Promise<void>;
}): ReactNode {
  const { data } = useQuery({ queryKey: ['names', id], queryFn: peopleNames, retry: 1 });
  const [person, setPerson] = useState('');
  const [role, setChosen] = useState<Role>('designer');
  const others = (data ?? []).filter((p) => !members.has(p.id));
  if (others.length === 0) return null;
  return (
    <form
      className="row"
      aria-label="Add somebody"
      onSubmit={(e) => {
        e.preventDefault();
        if (person !== '') void onGive(person, role).then(() => setPerson(''));
      }}
    >
      <select className="line" aria-label="Person" value={person} onChange={(e) => setPerson(e.target.value)}>
        <option value="">somebody who has an account</option>
        {others.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>
      <RoleSelect label="Role" value={role} onValue={setChosen} />
      <button type="submit" className="tick" disabled={person === ''}>
        Add
      </button>
    </form>
  );
}
