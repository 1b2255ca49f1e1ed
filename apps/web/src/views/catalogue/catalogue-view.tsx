import './catalogue.css';
import {
  CATALOGUE_KINDS,
  CATALOGUE_MARKS,
  catalogueCsv,
  catalogueHtml,
  catalogueJson,
  catalogueOf,
  type ProjectIndex,
} from '@oquel/core';
import { useDeferredValue, useEffect, useMemo, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { saveFile } from '../../parts/save-file.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { entryKey, useCatalogueAddress } from './catalogue-address.js';
import { DeclareLine } from './declare-line.js';
import { EntryList } from './entry-list.js';
import { EntryPanel } from './entry-panel.js';
import { UnusedPanel } from './unused-panel.js';
import { countsOf, filterEntries, findingsByEntry } from './filter-entries.js';
import { useSidePanel } from '../../parts/ui/side-panel.js';

const KIND_WORDS = {
  event: 'events',
  action: 'actions',
  channel: 'channels',
  enum: 'enums',
  table: 'key tables',
  loadSet: 'load sets',
  peer: 'peers',
  tag: 'tags',
} as const;

/** All entries, in one place: who brings it about, who hears it, what it carries. */
export function CatalogueView(): ReactNode {
  const session = useSession();
  const { id, index, audit } = useSessionState();
  const address = useCatalogueAddress();
  const { kind, mark, asset, entry: chosen, unused, go } = address;
  const [q, setQ] = useState(address.q);
  const asked = useDeferredValue(q);
  useEffect(() => {
    const timer = setTimeout(() => asked !== address.q && go({ q: asked }), 300);
    return () => clearTimeout(timer);
  }, [asked, address.q, go]);
  const entries = useMemo(() => catalogueOf(index), [index]);
  const counts = useMemo(() => countsOf(entries), [entries]);
  const findings = useMemo(() => findingsByEntry(audit?.findings ?? []), [audit]);
  const shown = useMemo(
    () => filterEntries(entries, { kind, mark, asset, q: asked }),
    [entries, kind, mark, asset, asked],
  );
  const [begun, setBegun] = useState<{ text: string } | null>(null);
  const entry = entries.find((e) => entryKey(e) === chosen);
  const assets = useMemo(() => index.assets.map((a) => a.decl.id), [index]);
  const panel = useSidePanel({
    name: 'catalogue',
    label: 'Width of the entry',
    side: 'right',
    share: 0.425,
    min: 320,
  });
  return (
    <div className="catalogue" style={panel.style}>
      {panel.divider}
      <div className="entries">
        <div className="entryfilter">
          <h1 className="unseen">Catalogue</h1>
          <div className="row" role="group" aria-label="Kind">
            {CATALOGUE_KINDS.map((k) => (
              <button
                key={k}
                type="button"
                className="tick"
                aria-pressed={kind === k}
                onClick={() => go({ kind: kind === k ? '' : k })}
              >
                {KIND_WORDS[k]} {counts.get(k) ?? 0}
              </button>
            ))}
          </div>
          <div className="row" role="group" aria-label="Show only">
            {CATALOGUE_MARKS.filter((m) => counts.has(m)).map((m) => (
              <button
                key={m}
                type="button"
                className="tick"
                aria-pressed={mark === m}
                onClick={() => go({ mark: mark === m ? '' : m })}
              >
                {m} {counts.get(m)}
              </button>
            ))}
          </div>
          <div className="row">
            <input
              className="line"
              style={{ flex: 1 }}
              aria-label="Search the catalogue"
              placeholder="a name, an asset, what it carries"
              value={q}
              onChange={(e) => setQ(e.target.value)}
            />
            <select
              className="line"
              aria-label="Only of this asset"
              value={asset}
              onChange={(e) => go({ asset: e.target.value })}
            >
              <option value="">any asset</option>
              {assets.map((a) => (
                <option key={a}>{a}</option>
              ))}
            </select>
            <span className="soft" role="status">
              {shown.length} of {entries.length}
            </span>
            <button
              type="button"
              className="word"
              aria-pressed={unused}
              onClick={() => go({ side: unused ? '' : 'unused' })}
            >
              Unused declarations
            </button>
            <Ways index={index} />
          </div>
        </div>
        <DeclareLine
          index={index}
          asset={asset}
          begun={begun}
          onEdit={(changeSet) => session.edit(changeSet)}
          onMade={(key) => {
            setQ('');
            go({ entry: key, kind: '', mark: '', q: '' });
          }}
        />
        {shown.length > 0 ? (
          <EntryList
            entries={shown}
            chosen={chosen}
            findings={findings}
            onChoose={(key) => go({ entry: key, side: '' })}
          />
        ) : (
          <div className="middle">
            {entries.length === 0 ? (
              <p>
                Nothing is declared yet. Declare a channel, an enum or a key table above; events and actions
                belong to a prefab: <Link to={`/p/${id}/plan`}>go to Plan</Link>.
              </p>
            ) : (
              'Nothing matches.'
            )}
            <Offers text={asked} asset={asset} onBegin={(text) => setBegun({ text })} />
            {entries.length > 0 && (
              <button
                type="button"
                className="word"
                onClick={() => {
                  setQ('');
                  go({ kind: '', mark: '', asset: '', q: '' });
                }}
              >
                Show all {entries.length}
              </button>
            )}
          </div>
        )}
      </div>
      <div className="entryside">
        {unused ? (
          <UnusedPanel index={index} onClose={() => go({ side: '' })} />
        ) : entry ? (
          <EntryPanel
            index={index}
            base={`/p/${id}`}
            entry={entry}
            entries={entries}
            findings={findings.get(chosen) ?? []}
            onGo={(key) => go({ entry: key })}
          />
        ) : (
          <div className="middle">
            {chosen === '' ? 'Select an entry to see who uses it.' : 'This is no longer in the project.'}
          </div>
        )}
      </div>
    </div>
  );
}

/** What a name that was looked for and is not there could be declared as. */
function Offers({
  text,
  asset,
  onBegin,
}: {
  text: string;
  asset: string;
  onBegin: (line: string) => void;
}): ReactNode {
  const name = text.trim();
  if (!/^[A-Za-z_][\w-]*$/.test(name)) return null;
  const ofAsset = asset === '' ? [] : /^on[A-Z]/.test(name) ? ['event'] : ['action', 'property'];
  return (
    <div className="row" role="group" aria-label={`Declare ${name}`}>
      {[...ofAsset, 'channel', 'prefab'].map((kind) => (
        <button
          key={kind}
          type="button"
          className="tick"
          onClick={() => onBegin(kind === 'property' ? `property ${name} = false` : `${kind} ${name}`)}
        >
          Declare the {kind} {name}
          {ofAsset.includes(kind) && ` of ${asset}`}
        </button>
      ))}
    </div>
  );
}

/** The catalogue for people who have no Oquel. */
function Ways({ index }: { index: ProjectIndex }): ReactNode {
  const print = (): void => {
    const url = URL.createObjectURL(new Blob([catalogueHtml(index)], { type: 'text/html' }));
    window.open(url, '_blank', 'noopener');
    setTimeout(() => URL.revokeObjectURL(url), 60_000);
  };
  return (
    <span className="exports" role="group" aria-label="Save the catalogue as">
      <button type="button" className="word" title="A page to print" onClick={print}>
        Print
      </button>
      <button
        type="button"
        className="word"
        onClick={() => saveFile('catalogue.json', 'application/json', catalogueJson(index))}
      >
        JSON
      </button>
      <button
        type="button"
        className="word"
        onClick={() => saveFile('catalogue.csv', 'text/csv', catalogueCsv(index))}
      >
        CSV
      </button>
    </span>
  );
}
