import { useInfiniteQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { securityLog } from '../../api/team.js';
import { momentText } from '../../format.js';
import { Failure } from '../../parts/team/failure.js';
import { Cell, DataTable, Row, RowHead } from '../../parts/ui/data-table.js';

const WORDS: Record<string, string> = {
  'signed-in': 'signed in',
  'sign-in-refused': 'could not sign in',
  'signed-out': 'signed out',
  'session-ended': 'ended another session',
  'password-changed': 'changed the password',
  refused: 'was refused',
  invited: 'invited',
  'invitation-withdrawn': 'withdrew an invitation',
  joined: 'joined',
  'person-changed': 'changed an account',
  'role-changed': 'changed a role',
  'token-made': 'made a token',
  'token-revoked': 'revoked a token',
  thinned: 'removed old history and builds',
  'project-state': 'archived, deleted or restored a project',
};

/** Who signed in, was refused, was given or lost a role; the newest first. */
export function SecurityList(): ReactNode {
  const { data, error, hasNextPage, fetchNextPage } = useInfiniteQuery({
    queryKey: ['security-log'],
    queryFn: ({ pageParam }) => securityLog(pageParam),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page) => (page.length < PAGE ? undefined : page.at(-1)?.id),
    retry: 1,
  });
  const entries = data?.pages.flat() ?? [];
  return (
    <>
      <p className="row">
        <a href="/api/security-log/lines" download>
          Export as JSON Lines
        </a>
      </p>
      <Failure of={error} />
      <DataTable heads={['When', 'Who', 'What', 'Project', 'From']}>
        {entries.map((e) => (
          <Row key={e.id}>
            <RowHead>{momentText(e.at)}</RowHead>
            <Cell>{e.who}</Cell>
            <Cell>
              {WORDS[e.what] ?? e.what}
              {e.detail !== '' && <span className="soft">: {e.detail}</span>}
            </Cell>
            <Cell>{e.project}</Cell>
            <Cell>{e.from}</Cell>
          </Row>
        ))}
      </DataTable>
      {hasNextPage && (
        <button type="button" className="tick" onClick={() => void fetchNextPage()}>
          Older ones
        </button>
      )}
    </>
  );
}
/** Entries of one answer of the server. */
const PAGE = 500;
