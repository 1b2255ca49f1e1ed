import {
  expectationOf,
  type Cause,
  type DeliveryTable,
  type EventDecl,
  type Expectation,
  type ProjectIndex,
  type Reachable,
  type Step,
  type Value,
} from '@oquel/core';
import { useEffect, useState, type ReactNode } from 'react';
import { FieldEntry } from './field-entry.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { valueText } from './states-panel.js';
import { WhoSelect } from './who-select.js';
import { Cell, DataTable, Row, RowHead } from '../../parts/ui/data-table.js';

interface Props {
  index: ProjectIndex;
  thing: Reachable;
  address: string;
  /** Seconds at which a new step is put. */
  at: number;
  /** States that a run has changed, by property. */
  changed: ReadonlyMap<string, Value>;
  walkers: readonly string[];
  onStep: (step: Step) => void;
  onExpect: (expect: Expectation) => void;
  onClose: () => void;
}

/** One thing of the plan: what can be done to it from outside, and what it is now. */
export function ThingPanel(props: Props): ReactNode {
  const { thing, address, changed, walkers, onExpect, onClose } = props;
  const { project } = useSessionState();
  const peers = project.peers ?? [];
  const [by, setBy] = useState('');
  const [activator, setActivator] = useState(walkers[0] ?? '');
  const { events, properties } = thing.asset;
  return (
    <section className="thingpanel" aria-label={`What can happen to ${address}`}>
      <div className="row">
        <h2 className="mono">{thing.path === '.' ? thing.asset.decl.id : thing.path}</h2>
        <span className="soft">{thing.asset.decl.id}</span>
        <button type="button" className="word grow" onClick={onClose}>
          Close
        </button>
      </div>
      <div className="row">
        {events.some((e) => 'activators' in e.cause || isTouch(e.cause)) && (
          <WhoSelect
            label="Who does it"
            shown="by"
            walkers={walkers}
            value={activator}
            onChange={setActivator}
          />
        )}
        {peers.length > 0 && (
          <label className="field">
            raised by
            <select
              className="line"
              aria-label="Which peer raises it"
              value={by}
              onChange={(e) => setBy(e.target.value)}
            >
              <option value="">its authority</option>
              {peers.map((p) => (
                <option key={p.name}>{p.name}</option>
              ))}
            </select>
          </label>
        )}
      </div>
      {events.length === 0 && <p className="soft">It has no events.</p>}
      <ul className="actionlist">
        {events.map((event) => (
          <EventAction
            key={event.name}
            {...props}
            event={event}
            by={by}
            activator={isTouch(event.cause) ? activator : ''}
          />
        ))}
      </ul>
      <ul className="statelist">
        <li>
          {thing.asleep ? 'asleep at first' : 'awake at first'}{' '}
          <button
            type="button"
            className="word"
            onClick={() => onExpect({ at: address, asleep: thing.asleep })}
          >
            expect
          </button>
        </li>
        {properties.map((p) => {
          const now = changed.get(p.name) ?? thing.placement?.properties?.[p.name] ?? p.default;
          const expect = expectationOf({ at: address, what: { property: p.name }, before: now, now });
          return (
            <li key={p.name}>
              {p.name} <span className="mono">{valueText(now)}</span>{' '}
              <button type="button" className="word" onClick={() => onExpect(expect)}>
                expect
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** One event as the action that raises it. */
function EventAction({
  index,
  thing,
  address,
  at,
  event,
  by,
  activator,
  onStep,
}: Props & { event: EventDecl; by: string; activator: string }): ReactNode {
  const [payload, setPayload] = useState<Record<string, Value>>({});
  const [table, setTable] = useState<DeliveryTable | null | 'asked'>(null);
  const session = useSession();
  const { project } = useSessionState();
  useEffect(() => setTable(null), [project]);
  const fields = event.payload ?? [];
  const raise = {
    at: address,
    event: event.name,
    ...(Object.keys(payload).length > 0 ? { payload } : {}),
    ...(activator === '' ? {} : { activator }),
    ...(by === '' ? {} : { by }),
  };
  return (
    <li>
      <div className="row">
        <button type="button" className="tick" onClick={() => onStep({ at, raise })}>
          {deedText(event.cause)}
        </button>
        <span className="mono">{event.name}</span>
        {fields.map((f) => (
          <FieldEntry
            key={f.name}
            index={index}
            field={f}
            of={event.name}
            value={payload[f.name]}
            onTake={(value) => setPayload({ ...payload, [f.name]: value })}
          />
        ))}
        {(project.peers ?? []).length > 0 && (
          <button
            type="button"
            className="word"
            aria-expanded={table !== null}
            aria-label={`Who may raise ${event.name} of ${thing.path}`}
            onClick={() => {
              if (table !== null) return setTable(null);
              setTable('asked');
              session.delivery(address, event.name).then(setTable, () => setTable(null));
            }}
          >
            who may?
          </button>
        )}
      </div>
      {table !== null && table !== 'asked' && <Delivered table={table} by={by} />}
    </li>
  );
}

/** Who may raise it, who hears it and where it acts, by peer. */
function Delivered({ table, by }: { table: DeliveryTable; by: string }): ReactNode {
  return (
    <DataTable
      className="delivered"
      caption={
        <>
          {table.event} of {table.at}: the authority is {table.authority}
          {table.operator ? `, the operator ${table.operator}` : ''}
          {table.reliable ? '' : '; it may be lost on the way'}
        </>
      }
      heads={['raised by', 'is', 'received by', 'acts']}
    >
      {table.rows.map((row) => (
        <Row key={row.peer} className={by === row.peer ? 'asked' : ''}>
          <RowHead>{row.peer}</RowHead>
          <Cell>{row.roles.join(', ')}</Cell>
          <Cell>{row.may ? row.audience.join(', ') || 'nobody' : 'may not raise it'}</Cell>
          <Cell>
            {row.acts.length === 0 && '–'}
            {row.acts.map((a) => (
              <div key={`${a.owner}/${a.binding}/${a.at}`}>
                <span className="mono">{a.at}</span> {a.action}: {a.peers.join(', ') || 'nowhere'}
              </div>
            ))}
            <div className={row.may ? 'soft' : 'fault warning'}>{row.answer}</div>
          </Cell>
        </Row>
      ))}
    </DataTable>
  );
}

function isTouch(cause: Cause): boolean {
  return cause.type === 'area-enter' || cause.type === 'area-leave' || cause.type === 'use';
}
const DEEDS: Record<Cause['type'], string> = {
  'area-enter': 'enter here',
  'area-leave': 'leave here',
  use: 'use this',
  press: 'press this',
  start: 'start it',
  destroyed: 'destroy it',
  timer: 'let its timer run out',
  change: 'change its property',
  code: 'raise it from code',
  raised: 'raise',
};
function deedText(cause: Cause): string {
  return DEEDS[cause.type];
}
