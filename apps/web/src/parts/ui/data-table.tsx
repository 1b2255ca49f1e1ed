import { Table, TableBody, TableCell, TableHead, TableRow } from '@mui/material';
import type { ReactNode } from 'react';

/** A table of things side by side: its heads, and rows of `Row` and `Cell`. */
export function DataTable({
  heads,
  className,
  caption,
  children,
}: {
  /** What each column holds; one that needs no name on the screen is `unseen`. */
  heads: readonly (string | { unseen: string } | { key: string; head: ReactNode })[];
  className?: string;
  caption?: ReactNode;
  children: ReactNode;
}): ReactNode {
  return (
    <Table size="small" className={className}>
      {caption && <caption>{caption}</caption>}
      <TableHead>
        <TableRow>
          {heads.map((head) =>
            typeof head === 'string' ? (
              <TableCell key={head}>{head}</TableCell>
            ) : 'unseen' in head ? (
              <TableCell key={head.unseen}>
                <span className="unseen">{head.unseen}</span>
              </TableCell>
            ) : (
              <TableCell key={head.key}>{head.head}</TableCell>
            ),
          )}
        </TableRow>
      </TableHead>
      <TableBody>{children}</TableBody>
    </Table>
  );
}

export const Row = TableRow;
export const Cell = TableCell;

/** The first cell of a row, which names it. */
export function RowHead({ className, children }: { className?: string; children: ReactNode }): ReactNode {
  return (
    <TableCell component="th" scope="row" className={className}>
      {children}
    </TableCell>
  );
}
