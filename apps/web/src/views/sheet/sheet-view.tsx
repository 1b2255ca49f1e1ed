import './sheet.css';
import { Autocomplete } from '@mui/material';
import { PickerInput } from '../../parts/ui/picker-input.js';
import { planBulk, printBinding, type AssetIndex } from '@oquel/core';
import { useDeferredValue, useEffect, useMemo, useState, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { copyText } from '../../parts/clipboard.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { BulkBar } from './bulk-bar.js';
import { useSheetAddress } from './sheet-address.js';
import { SheetList } from './sheet-list.js';
import {
  EndAssets,
  FACETS,
  facetValues,
  filterRows,
  findingsByBinding,
  groupRows,
  GROUPS,
  sheetRows,
  sortRows,
  SORTS,
  SWITCHES,
  type SheetRow,
  type Switch,
} from './sheet-rows.js';
import { countText } from '../../format.js';

const SWITCH_TEXT: Record<Switch, string> = {
  muted: 'Muted',
  once: 'Once',
  asking: 'With a condition',
  code: 'In code',
  findings: 'With findings',
};
const NONE: ReadonlySet<string> = new Set();

/** All bindings of a scope, or of the whole project, in one list: filtered, grouped, and changed many at a time. */
export function SheetView(): ReactNode {
  const session = useSession();
  const navigate = useNavigate();
  const { id, index, audit } = useSessionState();
  const { scope, among, filter, group, sort, go } = useSheetAddress();
  const owner: AssetIndex | null = index.assets[index.assetAt.get(scope) ?? -1] ?? null;
  const [q, setQ] = useState(filter.q);
  const asked = useDeferredValue(q);
  useEffect(() => {
    const timer = setTimeout(() => asked !== filter.q && go({ q: asked }), 300);
    return () => clearTimeout(timer);
  }, [asked, filter.q, go]);

  const all = useMemo(() => {
    const rows = sheetRows(index, owner);
    if (among.length === 0) return rows;
    const wanted = new Set(among);
    return rows.filter((row) => wanted.has(row.id));
  }, [index, owner, among]);
  const ends = useMemo(() => new EndAssets(index), [index]);
  const findings = useMemo(() => findingsByBinding(audit?.findings ?? []), [audit]);
  const rows = useMemo(
    () => filterRows(all, { ...filter, q: asked }, ends, findings),
    [all, filter, asked, ends, findings],
  );
  const items = useMemo(
    () => groupRows(sortRows(rows, sort, findings), group),
    [rows, sort, group, findings],
  );
  const [wanted, setChosen] = useState(NONE);
  const chosen = useMemo(() => (wanted.size === 0 ? [] : all.filter((r) => wanted.has(r.id))), [all, wanted]);

  const choose = (ids: readonly string[], way: 'only' | 'toggle' | 'add'): void =>
    setChosen((old) => {
      if (way === 'only') return new Set(ids);
      const next = new Set(old);
      const off = way === 'toggle' && ids.every((i) => next.has(i));
      for (const i of ids)
        if (off) next.delete(i);
        else next.add(i);
      return next;
    });
  const copy = (): void => void copyText(chosen.map((r) => printBinding(r.binding)).join('\n'));
  const open = ({ owner: { decl }, binding: { id: binding, from } }: SheetRow): void => {
    const [at, event] = 'at' in from ? [from.at, from.event] : [`#${from.channel}`, from.channel];
    void navigate(`/p/${id}/wire?${new URLSearchParams({ scope: decl.id, at, event, binding })}`);
  };
  const onKey = (key: 'delete' | 'mute' | 'copy' | 'all'): void => {
    if (key === 'all') return setChosen(new Set(rows.map((r) => r.id)));
    if (chosen.length === 0) return;
    if (key === 'copy') return copy();
    const muted = chosen.every((r) => r.binding.enabled === false);
    const plan = planBulk(
      index,
      chosen,
      key === 'delete' ? { part: 'remove' } : { part: 'enabled', value: muted },
    );
    const what = key === 'delete' ? 'removed' : muted ? 'unmuted' : 'muted';
    if (plan.changes.length === 0) return;
    session.edit({ label: `${what} ${countText(plan.steps.length, 'binding')}`, changes: plan.changes });
  };

  return (
    <div className="sheetview" data-filter={asked}>
      <div className="sheetbar">
        <h1 className="unseen">Sheet of {owner?.decl.id ?? 'the whole project'}</h1>
        <div className="row">
          <select
            className="line"
            aria-label="Scope"
            value={owner?.decl.id ?? ''}
            onChange={(e) => go({ scope: e.target.value })}
          >
            <option value="">the whole project</option>
            {index.assets.map(({ decl, bindings }) => (
              <option key={decl.id} value={decl.id}>
                {decl.id} ({bindings.length})
              </option>
            ))}
          </select>
          <input
            className="line filter"
            type="search"
            aria-label="Filter"
            placeholder="Filter: words of the sentence, ids, notes"
            value={q}
            onChange={(e) => setQ(e.target.value)}
          />
          {FACETS.map((f) => (
            <FacetField
              key={f}
              label={f}
              value={filter.facets[f] ?? null}
              options={() => facetValues(all, f, ends)}
              onChange={(value) => go({ [f]: value ?? '' })}
            />
          ))}
        </div>
        <div className="row">
          {SWITCHES.map((s) => (
            <button
              key={s}
              type="button"
              className="tick"
              aria-pressed={filter.switches.includes(s)}
              onClick={() =>
                go({
                  only: (filter.switches.includes(s)
                    ? filter.switches.filter((o) => o !== s)
                    : [...filter.switches, s]
                  ).join(','),
                })
              }
            >
              {SWITCH_TEXT[s]}
            </button>
          ))}
          <label>
            Group by{' '}
            <select className="line" value={group} onChange={(e) => go({ group: e.target.value })}>
              {GROUPS.map((g) => (
                <option key={g}>{g}</option>
              ))}
            </select>
          </label>
          <label>
            Sort by{' '}
            <select className="line" value={sort} onChange={(e) => go({ sort: e.target.value })}>
              {SORTS.map((s) => (
                <option key={s}>{s}</option>
              ))}
            </select>
          </label>
          <span role="status" className="soft">
            {rows.length === all.length
              ? countText(all.length, 'binding')
              : `${rows.length} of ${all.length}`}
          </span>
          {among.length > 0 && (
            <button type="button" className="tick" aria-pressed="true" onClick={() => go({ among: '' })}>
              only these {among.length}
            </button>
          )}
          <span className="grow" />
          <Link to={`/p/${id}/wire${owner ? `?scope=${owner.decl.id}` : ''}`}>By sender</Link>
        </div>
      </div>
      {items.length > 0 ? (
        <SheetList
          items={items}
          scoped={owner === null}
          chosen={wanted}
          findings={findings}
          onChoose={choose}
          onOpen={open}
          onKey={onKey}
        />
      ) : (
        <div className="middle">
          {all.length === 0 ? 'There are no bindings here yet.' : 'No binding matches the filter.'}
          {all.length > 0 && (
            <button
              type="button"
              className="word"
              onClick={() => {
                setQ('');
                go({ q: '', only: '', ...Object.fromEntries(FACETS.map((f) => [f, ''])) });
              }}
            >
              Show all {all.length}
            </button>
          )}
        </div>
      )}
      {chosen.length > 0 && <BulkBar rows={chosen} onCopy={copy} onDone={() => setChosen(NONE)} />}
    </div>
  );
}

function FacetField({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string | null;
  options: () => [string, number][];
  onChange: (value: string | null) => void;
}): ReactNode {
  // Counted only when the list is opened: it looks at every binding.
  const [list, setList] = useState<[string, number][]>([]);
  return (
    <Autocomplete<string>
      size="small"
      className="facet"
      options={list.length > 0 ? list.map(([name]) => name) : value ? [value] : []}
      value={value}
      onOpen={() => setList(options())}
      onChange={(_, next) => onChange(next)}
      filterOptions={(names, { inputValue }) =>
        names.filter((n) => n.toLowerCase().includes(inputValue.toLowerCase())).slice(0, 200)
      }
      renderOption={({ key, ...props }, name) => (
        <li key={key} {...props} style={{ minHeight: 28, padding: '2px 10px', gap: 8 }}>
          <span className="mono">{name}</span>
          <b style={{ marginLeft: 'auto' }}>{list.find(([n]) => n === name)?.[1]}</b>
        </li>
      )}
      renderInput={(params) => (
        <PickerInput params={params} label={`Only this ${label}`} placeholder={label} />
      )}
    />
  );
}
