import type { ReactNode } from 'react';
import type { ProjectAmounts } from '../../api/retention.js';
import { bytesText, numberText } from '../../format.js';
import { Cell, DataTable, Row, RowHead } from '../../parts/ui/data-table.js';

/** What each project has, and what of it goes. */
export function AmountsTable({ projects }: { projects: readonly ProjectAmounts[] }): ReactNode {
  return (
    <DataTable
      heads={[
        'Project',
        'Edits',
        { key: 'old edits', head: 'of these go' },
        'Builds',
        { key: 'old builds', head: 'of these go' },
        'That frees',
      ]}
    >
      {projects.map((p) => (
        <Row key={p.id}>
          <RowHead>{p.name}</RowHead>
          <Cell>{numberText(p.history.all)}</Cell>
          <Cell>{p.history.going > 0 && numberText(p.history.going)}</Cell>
          <Cell>{numberText(p.builds.all)}</Cell>
          <Cell>{p.builds.going > 0 && numberText(p.builds.going)}</Cell>
          <Cell>{p.history.going + p.builds.going > 0 && bytesText(p.history.bytes + p.builds.bytes)}</Cell>
        </Row>
      ))}
    </DataTable>
  );
}
