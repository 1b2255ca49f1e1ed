import './crossings.css';
import {
  CROSSING_GROUPS,
  CROSSING_ORDERS,
  orderGroups,
  type Crossings,
  type CrossingGroup,
} from '@oquel/core';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useSession, useSessionState } from '../../session/session-context.js';
import { useCoverage } from '../../session/use-coverage.js';
import { CoveredMark } from '../../parts/ui/covered-mark.js';
import { CellPanel } from './cell-panel.js';
import { matrixOf, worstByBinding, type Matrix } from './cells.js';
import { CELL_FILTERS, useCrossingsAddress, type CellFilter } from './crossings-address.js';
import { cellText, MatrixDrawing } from './matrix-drawing.js';
import { PictureMenu } from '../../parts/picture/picture-menu.js';
import { cssColour } from '../../parts/picture/css-colour.js';
import { matrixPicture, MOST_IN_PICTURE } from './matrix-picture.js';
import { useSidePanel } from '../../parts/ui/side-panel.js';
import { Cell, DataTable, Row } from '../../parts/ui/data-table.js';

const FILTER_WORDS: Record<Exclude<CellFilter, ''>, string> = {
  across: 'across scenes',
  channel: 'through channels',
  code: 'in code',
  hand: 'by hand',
  both: 'both ways',
  findings: 'with findings',
  unused: 'never used',
};
const ORDER_WORDS = {
  document: 'as declared',
  name: 'by name',
  weight: 'heaviest first',
  clusters: 'related together',
} as const;

/** Who talks to whom, as a matrix of senders against receivers. */
export function CrossingsView(): ReactNode {
  const { id, index, audit, played } = useSessionState();
  const { by, order, only, shows, from, to, go } = useCrossingsAddress();
  const crossings = useCrossings(by);
  const worst = useMemo(() => worstByBinding(audit?.findings ?? []), [audit]);
  const coverage = useCoverage();
  const matrix = useMemo(
    () => (crossings ? matrixOf(crossings, orderGroups(crossings, order), only, worst, coverage) : null),
    [crossings, order, only, worst, coverage],
  );
  const row = matrix ? matrix.names.indexOf(from) : -1;
  const column = matrix ? matrix.names.indexOf(to) : -1;
  const cellAt = (r: number, c: number): ReturnType<Matrix['at']['get']> =>
    matrix && r >= 0 && c >= 0 ? matrix.at.get(r * matrix.names.length + c) : undefined;
  const choose = (r: number, c: number): void => {
    if (matrix) go({ from: matrix.names[r], to: matrix.names[c] });
  };
  const fitting = matrix ? [...matrix.at.values()].filter((c) => c.fits) : [];
  const panel = useSidePanel({
    name: 'crossings',
    label: 'Width of the cell',
    side: 'right',
    share: 0.3,
    min: 280,
  });
  return (
    <div className="crossings">
      <div className="crossingsbar">
        <h1 className="unseen">Crossings</h1>
        <span role="group" aria-label="Groups" className="switch">
          {CROSSING_GROUPS.map((g) => (
            <button
              key={g}
              type="button"
              className="tick"
              aria-pressed={by === g}
              onClick={() => go({ by: g, from: '', to: '' })}
            >
              by {g}
            </button>
          ))}
        </span>
        <select
          className="line"
          aria-label="Order"
          value={order}
          onChange={(e) => go({ order: e.target.value })}
        >
          {CROSSING_ORDERS.map((o) => (
            <option key={o} value={o}>
              {ORDER_WORDS[o]}
            </option>
          ))}
        </select>
        <span role="group" aria-label="Show only" className="switch">
          {CELL_FILTERS.filter((f) => f !== 'unused' || coverage).map((f) => (
            <button
              key={f}
              type="button"
              className="tick"
              aria-pressed={only === f}
              onClick={() => go({ only: only === f ? '' : f })}
            >
              {FILTER_WORDS[f]}
            </button>
          ))}
        </span>
        <span role="group" aria-label="Shown as" className="switch">
          {(['picture', 'list'] as const).map((s) => (
            <button
              key={s}
              type="button"
              className="tick"
              aria-pressed={shows === s}
              onClick={() => go({ shows: s === 'picture' ? '' : s })}
            >
              {s}
            </button>
          ))}
        </span>
        {matrix && matrix.names.length > 0 && (
          <PictureMenu
            title={`Crossings by ${by}`}
            drawing={() => matrixPicture(matrix, cssColour)}
            none={`A picture holds ${MOST_IN_PICTURE} groups at the most; group by something larger.`}
          />
        )}
        <span className="soft" role="status">
          {matrix && `${fitting.length} of ${matrix.at.size} pairs`}
        </span>
      </div>
      <div className="crossingsbody" style={panel.style}>
        {panel.divider}
        {!matrix ? (
          <div className="middle">Loading crossings ...</div>
        ) : matrix.names.length === 0 ? (
          <div className="middle">
            <p>There are no bindings yet.</p>
            <p>
              <Link className="tick" to={`/p/${id}/wire`}>
                Go to Wire to add the first one
              </Link>
            </p>
          </div>
        ) : shows === 'list' ? (
          <CellTable matrix={matrix} from={from} to={to} onChoose={choose} />
        ) : (
          <MatrixDrawing
            matrix={matrix}
            row={row}
            column={column}
            label={`Who talks to whom, ${matrix.names.length} groups; arrows go through the cells`}
            onChoose={choose}
          />
        )}
        <div className="cellside">
          {row >= 0 && column >= 0 ? (
            <CellPanel
              index={index}
              base={`/p/${id}`}
              from={from}
              to={to}
              cell={cellAt(row, column)?.cell}
              back={cellAt(column, row)?.cell}
              onTurn={() => go({ from: to, to: from })}
            />
          ) : (
            <Legend coverage={coverage !== null} inPlay={played !== null} />
          )}
        </div>
      </div>
    </div>
  );
}

/** The matrix of the project as it is now; the last one stays until the next is there. */
function useCrossings(by: CrossingGroup): Crossings | null {
  const session = useSession();
  const { project } = useSessionState();
  const [found, setFound] = useState<Crossings | null>(null);
  useEffect(() => {
    let current = true;
    session.crossings(by).then(
      (crossings) => current && setFound(crossings),
      // Without an answer the last one stays.
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [session, project, by]);
  return found?.by === by ? found : null;
}

const MOST = 400;
/** The same as a table, the heaviest first. */
function CellTable({
  matrix,
  from,
  to,
  onChoose,
}: {
  matrix: Matrix;
  from: string;
  to: string;
  onChoose: (row: number, column: number) => void;
}): ReactNode {
  const cells = [...matrix.at.values()]
    .filter((c) => c.fits)
    .sort((a, b) => b.cell.deliveries - a.cell.deliveries || a.row - b.row || a.column - b.column);
  const isCovered = cells.some((c) => c.used);
  return (
    <div className="celltable">
      <DataTable
        heads={[
          'sender',
          'receiver',
          'deliveries',
          'bindings',
          'through channels',
          'across scenes',
          'in code',
          ...(isCovered ? ['used'] : []),
        ]}
      >
        {cells.slice(0, MOST).map((c) => {
          const here = matrix.names[c.row] === from && matrix.names[c.column] === to;
          return (
            <Row key={`${c.row}/${c.column}`} className={here ? 'here' : ''}>
              <Cell>
                <button
                  type="button"
                  className="word mono"
                  aria-label={cellText(c, matrix)}
                  onClick={() => onChoose(c.row, c.column)}
                >
                  {matrix.names[c.row]}
                </button>
              </Cell>
              <Cell className="mono">{matrix.names[c.column]}</Cell>
              <Cell>{c.cell.deliveries}</Cell>
              <Cell>{c.cell.of}</Cell>
              <Cell>{c.cell.throughChannel || ''}</Cell>
              <Cell>{c.cell.acrossScenes || ''}</Cell>
              <Cell>{c.cell.inCode || ''}</Cell>
              {isCovered && <Cell>{c.used && <CoveredMark used={c.used} />}</Cell>}
            </Row>
          );
        })}
      </DataTable>
      {cells.length > MOST && <p className="soft">and {cells.length - MOST} more pairs</p>}
    </div>
  );
}

function Legend({ coverage, inPlay }: { coverage: boolean; inPlay: boolean }): ReactNode {
  return (
    <div className="legend">
      <h2>How to read it</h2>
      <p>
        Rows are senders, columns are receivers. The stronger the tone of a cell, the more it delivers; its
        number counts the deliveries over all copies.
      </p>
      <ul>
        <li>a cut corner: some of it goes through a channel</li>
        <li>a bar at the foot: some of it crosses from one scene to another</li>
        <li>a dot: some of it is wired in code</li>
        <li>a frame: one of its bindings has a finding</li>
        {coverage && (
          <li>a striped corner: {inPlay ? 'the play uses' : 'rehearsals use'} none of its bindings</li>
        )}
      </ul>
      <p>Select a cell to see its bindings, and those in the other direction.</p>
    </div>
  );
}
