import './states.css';
import { expectationOf, expectedText, type Expectation, type StateChange, type Value } from '@oquel/core';
import { useMemo, type ReactNode } from 'react';
import { Cell, DataTable, Row } from '../../parts/ui/data-table.js';

/** What has changed since the beginning; a press makes an expectation of it. */
export function StatesPanel({
  title,
  changes,
  expected,
  onExpect,
}: {
  title: string;
  changes: readonly StateChange[];
  /** Expectations of the script, each as JSON. */
  expected: ReadonlySet<string>;
  onExpect: (expect: Expectation) => void;
}): ReactNode {
  // Counts come last: what a thing is says more than what it has done.
  const states = useMemo(
    () => [...changes.filter((s) => !isCount(s)), ...changes.filter(isCount)],
    [changes],
  );
  const shown = states.slice(0, MOST);
  return (
    <section className="states" aria-label="States">
      <h2>{title}</h2>
      {states.length === 0 && <p className="soft">Nothing has changed since the start.</p>}
      {states.length > 0 && (
        <DataTable heads={['who', 'what', 'before', 'now', { unseen: 'expectation' }]}>
          {shown.map((s) => {
            const expect = expectationOf(s);
            const there = expected.has(JSON.stringify(expect));
            return (
              <Row key={JSON.stringify([s.at, s.what])}>
                <Cell className="mono">{s.at}</Cell>
                <Cell>{whatText(s)}</Cell>
                <Cell className="mono">{valueText(s.before)}</Cell>
                <Cell className="mono now">{valueText(s.now)}</Cell>
                <Cell>
                  <button
                    type="button"
                    className="word"
                    disabled={there}
                    aria-label={`${there ? 'expected' : 'expect'}: ${s.at} ${expectedText(expect)}`}
                    onClick={() => onExpect(expect)}
                  >
                    {there ? 'expected' : 'expect'}
                  </button>
                </Cell>
              </Row>
            );
          })}
        </DataTable>
      )}
      {states.length > MOST && <p className="soft">and {states.length - MOST} more</p>}
    </section>
  );
}
const MOST = 200;

function isCount({ what }: StateChange): boolean {
  return typeof what === 'object' && 'action' in what;
}
function whatText({ what }: StateChange): string {
  if (typeof what === 'string') return what === 'born' ? 'is there' : what;
  return 'property' in what ? what.property : `did ${what.action}`;
}
export function valueText(value: Value): string {
  if (value === true) return 'yes';
  if (value === false) return 'no';
  if (value === '') return 'empty';
  return typeof value === 'string' ? value : JSON.stringify(value);
}
