import { waiverStates, type WaiverState } from '@oquel/core';
import { useMemo, type ReactNode } from 'react';
import { Entry, type Read } from '../../parts/ui/entry.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { waivesAtOnce } from '../../session/access.js';
import { acceptEdit, waiversEdit } from './waive.js';
import { isoToday } from '../../format.js';
import { Cell, DataTable, Row } from '../../parts/ui/data-table.js';

const SAYS: Record<WaiverState['state'], string> = {
  'in force': 'in force',
  partial: 'its finding now occurs in more places',
  proposed: 'proposed: it does not count yet',
  stale: 'it has expired: the finding counts again',
  idle: 'its finding is gone',
};

/** All waivers, with those that no longer hold marked; each can be prolonged or taken back. */
export function WaiversPanel({ onShow }: { onShow: (fingerprint: string) => void }): ReactNode {
  const session = useSession();
  const { project, audit, access } = useSessionState();
  const today = isoToday();
  const states = useMemo(
    () => waiverStates(audit?.findings ?? [], project.waivers ?? [], today),
    [audit, project.waivers, today],
  );
  const waivers = project.waivers ?? [];
  const dead = states.filter((s) => s.state === 'stale' || s.state === 'idle');
  if (states.length === 0) {
    return (
      <>
        <h1 className="unseen">Waivers</h1>
        <p className="soft none">There are no waivers. Waive a finding on its own page, with a reason.</p>
      </>
    );
  }
  return (
    <section className="waivers" aria-label="Waivers">
      <h1 className="unseen">Waivers</h1>
      {dead.length > 0 && (
        <button
          type="button"
          className="tick"
          onClick={() =>
            session.edit(
              waiversEdit(
                project,
                'removed the waivers that no longer apply',
                waivers.filter((_, i) => states[i].state !== 'stale' && states[i].state !== 'idle'),
              ),
            )
          }
        >
          Remove {dead.length} that no longer {dead.length === 1 ? 'applies' : 'apply'}
        </button>
      )}
      <DataTable heads={['Status', 'Waived finding', 'Why', 'By', 'Until', { unseen: 'Remove' }]}>
        {states.map(({ waiver, state, finding }, i) => (
          <Row key={`${waiver.fingerprint}/${i}`} className={state.replace(' ', '-')} data-state={state}>
            <Cell>{SAYS[state]}</Cell>
            <Cell>
              {finding ? (
                <button type="button" className="word" onClick={() => onShow(finding.fingerprint)}>
                  {finding.message}
                </button>
              ) : (
                <span className="mono soft">{waiver.fingerprint}</span>
              )}
              {waiver.occurrences && <span className="soft"> in {waiver.occurrences.length} places</span>}
            </Cell>
            <Cell>{waiver.reason}</Cell>
            <Cell>{waiver.by}</Cell>
            <Cell>
              <Entry
                label={`Until when: ${waiver.reason}`}
                shown=""
                width={92}
                placeholder="forever"
                value={waiver.until ?? ''}
                read={readDate}
                onTake={(until) =>
                  session.edit(
                    waiversEdit(
                      project,
                      `waiver "${waiver.reason}" until ${until ?? 'for ever'}`,
                      waivers.map((w, k) => (k === i ? withUntil(w, until) : w)),
                    ),
                  )
                }
              />
            </Cell>
            <Cell>
              {state === 'proposed' && waivesAtOnce(access) && (
                <>
                  <button
                    type="button"
                    className="word"
                    onClick={() => session.edit(acceptEdit(project, waiver))}
                  >
                    Accept
                  </button>{' '}
                </>
              )}
              <button
                type="button"
                className="word"
                onClick={() =>
                  session.edit(
                    waiversEdit(
                      project,
                      `removed a waiver: ${waiver.reason}`,
                      waivers.filter((_, k) => k !== i),
                    ),
                  )
                }
              >
                Remove
              </button>
            </Cell>
          </Row>
        ))}
      </DataTable>
    </section>
  );
}

function readDate(text: string): Read<string | undefined> {
  const trimmed = text.trim();
  if (trimmed === '') return { value: undefined };
  const real = /^\d{4}-\d{2}-\d{2}$/.test(trimmed) && !Number.isNaN(Date.parse(trimmed));
  return real ? { value: trimmed } : { error: 'a date, such as 2026-12-24' };
}
function withUntil<W extends { until?: string }>(waiver: W, until: string | undefined): W {
  const { until: _, ...rest } = waiver;
  return (until === undefined ? rest : { ...rest, until }) as W;
}
