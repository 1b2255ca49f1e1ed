import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { listTokens, makeToken, revokeToken, type Scope } from '../../api/team.js';
import { agoText, dayText } from '../../format.js';
import { Failure } from '../../parts/team/failure.js';
import { NewSecret } from '../../parts/team/new-secret.js';
import { Cell, DataTable, Row, RowHead } from '../../parts/ui/data-table.js';

const SCOPES: Record<Scope, string> = {
  audit: 'read the document and its audit',
  declarations: 'send declarations',
  plays: 'send plays',
};
const DAYS = { 30: 'a month', 90: 'three months', 365: 'a year' } as const;

/** Tokens with which build servers and games come: what each is for, until when, and whether it is used. */
export function Tokens({ id }: { id: string }): ReactNode {
  const queries = useQueryClient();
  const key = ['tokens', id];
  const { data, error } = useQuery({ queryKey: key, queryFn: () => listTokens(id), retry: 1 });
  const [made, setMade] = useState<{ name: string; token: string } | null>(null);
  const [failure, setFailure] = useState<unknown>(null);
  const run = async (act: () => Promise<void>): Promise<void> => {
    setFailure(null);
    await act().catch(setFailure);
    await queries.invalidateQueries({ queryKey: key });
  };
  return (
    <>
      <Failure of={error ?? failure} />
      {data?.length === 0 && (
        <p className="soft">No token yet. Build servers and games send one as “Authorization: Bearer”.</p>
      )}
      {data && data.length > 0 && (
        <DataTable
          heads={['Token', 'May', 'Made by', 'Holds until', 'Last used', { unseen: 'What can be done' }]}
        >
          {data.map((t) => (
            <Row key={t.id}>
              <RowHead>{t.name}</RowHead>
              <Cell>{t.scopes.map((s) => SCOPES[s]).join(', ')}</Cell>
              <Cell>{t.madeBy}</Cell>
              <Cell>{Date.parse(t.until) < Date.now() ? 'over' : dayText(t.until)}</Cell>
              <Cell>{t.usedAt === null ? 'never' : agoText(t.usedAt)}</Cell>
              <Cell>
                <button type="button" className="word" onClick={() => void run(() => revokeToken(id, t.id))}>
                  Revoke
                </button>
              </Cell>
            </Row>
          ))}
        </DataTable>
      )}
      <NewToken
        onMake={(name, scopes, days) =>
          run(async () => setMade({ name, token: (await makeToken(id, { name, scopes, days })).token }))
        }
      />
      {made && <NewSecret what={`The token ${made.name}.`} text={made.token} onDone={() => setMade(null)} />}
    </>
  );
}

function NewToken({
  onMake,
}: {
  onMake: (name: string, scopes: Scope[], days: number) => Promise<void>;
}): ReactNode {
  const [name, setName] = useState('');
  const [scopes, setScopes] = useState<readonly Scope[]>(['audit']);
  const [days, setDays] = useState(90);
  return (
    <form
      className="row"
      aria-label="New token"
      onSubmit={(e) => {
        e.preventDefault();
        void onMake(name.trim(), [...scopes], days).then(() => setName(''));
      }}
    >
      <input
        className="line"
        aria-label="Name of the token"
        placeholder="name of a new token"
        maxLength={80}
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      {(Object.keys(SCOPES) as Scope[]).map((s) => (
        <label key={s} className="field">
          <input
            type="checkbox"
            checked={scopes.includes(s)}
            onChange={(e) => setScopes(e.target.checked ? [...scopes, s] : scopes.filter((x) => x !== s))}
          />
          {SCOPES[s]}
        </label>
      ))}
      <label className="field">
        for
        <select className="line" value={days} onChange={(e) => setDays(Number(e.target.value))}>
          {Object.entries(DAYS).map(([n, words]) => (
            <option key={n} value={n}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <button type="submit" className="tick" disabled={name.trim() === '' || scopes.length === 0}>
        Make a token
      </button>
    </form>
  );
}
