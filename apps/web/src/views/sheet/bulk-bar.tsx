import {
  askableByAll,
  parseConditions,
  planBulk,
  printBinding,
  type BulkChange,
  type BulkPlan,
  type ChangeSet,
  type FindingChange,
  type KeyExpr,
} from '@oquel/core';
import { useId, useMemo, useState, type ReactNode } from 'react';
import { SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { usePreview } from '../../session/use-preview.js';
import type { SheetRow } from './sheet-rows.js';
import { countText } from '../../format.js';

const BULK_ACTIONS = {
  mute: 'mute',
  unmute: 'unmute',
  once: 'limit to once',
  limit: 'set limit ...',
  unlimited: 'remove limit',
  delay: 'set delay ...',
  action: 'set action ...',
  receiver: 'set receiver ...',
  key: 'set key ...',
  asks: 'set condition ...',
  asksAlso: 'add condition ...',
  asksNothing: 'remove conditions',
  remove: 'delete',
} as const;
type BulkAction = keyof typeof BULK_ACTIONS;
const WITH_VALUE: Partial<Record<BulkAction, string>> = {
  limit: 'how many times',
  delay: 'seconds',
  action: 'action',
  receiver: 'receiver, such as brake-2',
  key: 'value or @property; empty removes it',
  asks: 'condition, such as $speed > 12',
  asksAlso: 'condition, such as $speed > 12',
};
const SHOWN = 40;

/** Changes many bindings at once: what each becomes, and what the audit would say, is shown before it is done. */
export function BulkBar({
  rows,
  onDone,
  onCopy,
}: {
  rows: readonly SheetRow[];
  onDone: () => void;
  onCopy: () => void;
}): ReactNode {
  const session = useSession();
  const { index } = useSessionState();
  const list = useId();
  const [action, setAction] = useState<BulkAction | ''>('');
  const [value, setValue] = useState('');
  const change = useMemo(() => (action === '' ? null : changeOf(action, value)), [action, value]);
  const plan = useMemo(
    () => (change && 'part' in change ? planBulk(index, rows, change) : null),
    [index, rows, change],
  );
  const asks = action === 'asks' || action === 'asksAlso';
  const askable = useMemo(() => (asks ? askableByAll(index, rows) : []), [asks, index, rows]);
  const found = usePreview(plan?.changes ?? null, 250);
  const apply = (): void => {
    if (!plan || plan.changes.length === 0 || action === '') return;
    if (!session.edit(labelled(plan, action, value))) return;
    setAction('');
    setValue('');
    onDone();
  };
  return (
    <section className="bulk" aria-label="Change the selected bindings">
      <div className="row">
        <b>{countText(rows.length, 'binding')} chosen</b>
        <button type="button" className="word" title="C" onClick={onCopy}>
          Copy as lines
        </button>
        <label>
          Change:{' '}
          <select
            className="line"
            aria-label="Change"
            value={action}
            onChange={(e) => {
              setAction(e.target.value as BulkAction | '');
              setValue('');
            }}
          >
            <option value="">...</option>
            {Object.entries(BULK_ACTIONS).map(([k, text]) => (
              <option key={k} value={k}>
                {text}
              </option>
            ))}
          </select>
        </label>
        {action !== '' && WITH_VALUE[action] && (
          <input
            className="line"
            style={{ width: 250 }}
            aria-label={WITH_VALUE[action]}
            placeholder={WITH_VALUE[action]}
            value={value}
            list={asks ? list : undefined}
            onChange={(e) => setValue(e.target.value)}
            onKeyDown={(e) => e.key === 'Enter' && apply()}
          />
        )}
        {asks && (
          <datalist id={list}>
            {askable.map((name) => (
              <option key={name} value={`${name} = `} />
            ))}
          </datalist>
        )}
        {change && 'error' in change && value !== '' && <span className="fault error">{change.error}</span>}
        {plan && (
          <>
            <button
              type="button"
              className="tick"
              aria-pressed="true"
              disabled={plan.changes.length === 0}
              onClick={apply}
            >
              {action === 'remove' ? 'Remove' : 'Change'} {plan.steps.length}
            </button>
            <button type="button" className="tick" onClick={() => setAction('')}>
              Cancel
            </button>
          </>
        )}
        <span role="status">{plan && <Outcome plan={plan} found={found} total={rows.length} />}</span>
      </div>
      {plan && plan.steps.length > 0 && (
        <ol className="steps mono">
          {plan.steps.slice(0, SHOWN).map(({ owner, binding, after }) => (
            <li key={`${owner.decl.id}/${binding.id}`}>
              <del>{printBinding(binding)}</del>
              {after && <ins>{printBinding(after)}</ins>}
            </li>
          ))}
          {plan.steps.length > SHOWN && <li>and {plan.steps.length - SHOWN} more</li>}
        </ol>
      )}
    </section>
  );
}

function Outcome({
  plan,
  found,
  total,
}: {
  plan: BulkPlan;
  found: FindingChange | null;
  total: number;
}): ReactNode {
  const same = total - plan.steps.length - plan.left.length;
  return (
    <span className="soft">
      {same > 0 && `${same} already set. `}
      {plan.left.length > 0 && `${plan.left.length} left out: ${plan.left[0].why}. `}
      {plan.changes.length > 0 && !found && 'Checking findings ...'}
      {found && found.added.length + found.gone.length === 0 && 'No finding would change.'}
      {found &&
        (['error', 'warning', 'info'] as const).map((s) => {
          const n = found.added.filter((f) => f.severity === s).length;
          return (
            n > 0 && (
              <span key={s} className={`fault ${s}`}>
                <SeverityMark severity={s} /> {countText(n, `new ${SEVERITY_WORD[s]}`)}{' '}
              </span>
            )
          );
        })}
      {found && found.gone.length > 0 && (
        <b className="good">{countText(found.gone.length, 'finding')} gone</b>
      )}
    </span>
  );
}

function changeOf(action: BulkAction, value: string): BulkChange | { error: string } {
  const text = value.trim();
  switch (action) {
    case 'mute':
      return { part: 'enabled', value: false };
    case 'unmute':
      return { part: 'enabled', value: true };
    case 'once':
      return { part: 'limit', value: 1 };
    case 'unlimited':
      return { part: 'limit', value: null };
    case 'limit': {
      const n = Number(text);
      return Number.isSafeInteger(n) && n >= 1
        ? { part: 'limit', value: n }
        : { error: 'a whole number from 1' };
    }
    case 'delay': {
      const n = Number(text.replace(/s$/, ''));
      return text !== '' && Number.isFinite(n) && n >= 0
        ? { part: 'delay', value: n }
        : { error: 'seconds from 0' };
    }
    case 'action':
      return text === '' ? { error: 'the name of an action' } : { part: 'action', value: text };
    case 'receiver':
      return text === '' ? { error: 'a path' } : { part: 'receiver', value: text };
    case 'key':
      return { part: 'key', value: text === '' ? null : keyOf(text) };
    case 'asks':
    case 'asksAlso': {
      const read = parseConditions(text);
      if ('fault' in read) return { error: `${read.fault.message} at character ${read.fault.at + 1}` };
      return read.value.length > 0
        ? { part: 'if', value: read.value, also: action === 'asksAlso' }
        : { error: 'a condition' };
    }
    case 'asksNothing':
      return { part: 'if', value: [], also: false };
    case 'remove':
      return { part: 'remove' };
  }
}
function keyOf(text: string): KeyExpr {
  if (text.startsWith('@')) return { property: text.slice(1) };
  if (text === 'true' || text === 'false') return text === 'true';
  const n = Number(text);
  return Number.isFinite(n) ? n : text.replace(/^"(.*)"$/, '$1');
}

function labelled(plan: BulkPlan, action: BulkAction, value: string): ChangeSet {
  const owners = new Set(plan.steps.map((s) => s.owner.decl.id));
  const where = owners.size === 1 ? [...owners][0] : `${owners.size} scopes`;
  const what = BULK_ACTIONS[action].replace('...', value.trim() || 'none');
  return {
    label: `${where}: ${countText(plan.steps.length, 'binding')}: ${what}`,
    changes: plan.changes,
  };
}
