import {
  changeFields,
  changeItems,
  nameFault,
  mergeEntries,
  nameOfEntry,
  renameName,
  moveEntry,
  noteEntry,
  printFields,
  retireEntry,
  sourceOfName,
  sourceText,
  usesOfEntry,
  usesOfName,
  type CatalogueEntry,
  type Change,
  type ChangeSet,
  type Finding,
  type Peer,
  type ProjectIndex,
} from '@oquel/core';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { FaultLine } from '../../parts/fault-line.js';
import { ImpactPanel } from '../../parts/impact-panel.js';
import { rippleHref } from '../../parts/ripple-href.js';
import { Entry, type Read } from '../../parts/ui/entry.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { entryKey } from './catalogue-address.js';
import { fieldsRead, ITEMS, itemsRead, itemsText } from './entry-reads.js';
import { NamedUses, Uses } from './entry-uses.js';

interface Props {
  index: ProjectIndex;
  base: string;
  entry: CatalogueEntry;
  entries: readonly CatalogueEntry[];
  findings: readonly Finding[];
  onGo: (key: string) => void;
}
/** A change of the entry that is looked at before it is done. */
interface Pending {
  changeSet: ChangeSet;
  /** The entry that is shown afterwards; empty for none. */
  then: string;
}

/** One entry: what it carries, who brings it about and who follows, and what can be done with it. */
export function EntryPanel({ index, base, entry, entries, findings, onGo }: Props): ReactNode {
  const session = useSession();
  const { audit } = useSessionState();
  const [pending, setPending] = useState<Pending | null>(null);
  const [round, setRound] = useState(0);
  const key = entryKey(entry);
  useEffect(() => setPending(null), [key]);
  const uses = useMemo(() => usesOfEntry(index, entry), [index, entry]);
  const named = useMemo(() => usesOfName(index, nameOfEntry(entry)), [index, entry]);
  const { kind, asset, name } = entry;
  const said = `${asset === '' ? '' : `${asset}: `}`;
  const word = kind === 'table' ? 'key table' : kind === 'loadSet' ? 'load set' : kind;
  const carries = kind === 'event' || kind === 'action' || kind === 'channel';
  const ask = (label: string, changes: Change[], then: string): void => {
    if (changes.length > 0) setPending({ changeSet: { label: `${said}${label}`, changes }, then });
  };
  const renamedKey = (to: string): string => entryKey({ kind, asset, name: to });
  const alike = entries.filter((e) => e.kind === kind && e.asset === asset && e.name !== name);
  const source = useMemo(() => sourceOfName(index, entry), [index, entry]);
  const start = kind === 'channel' ? { channel: name } : { asset, name };
  return (
    <article className="entrypanel" aria-label={`${word} ${asset} ${name}`} key={`${key}/${round}`}>
      <div className="row">
        <Entry
          label={`Name of the ${word}`}
          shown=""
          width={230}
          value={name}
          read={(text): Read<string> => {
            const fault = nameFault(index, nameOfEntry(entry), text.trim());
            return fault === null ? { value: text.trim() } : { error: fault };
          }}
          onTake={(to) =>
            ask(
              `renamed the ${word} ${name} to ${to}`,
              renameName(index, nameOfEntry(entry), to, audit?.findings),
              renamedKey(to),
            )
          }
        />
        <span className="soft">
          {word}
          {asset === '' ? '' : ` of ${asset}`}
          {source && <span title="Where the game declares it">, declared in {sourceText(source)}</span>}
        </span>
        {(kind === 'event' || kind === 'action' || kind === 'channel') && (
          <Link className="grow" to={rippleHref(base, start, kind === 'action' ? 'backward' : 'forward')}>
            {kind === 'action' ? 'What leads here' : 'What follows'}
          </Link>
        )}
      </div>
      {(kind === 'enum' || kind === 'table' || kind === 'loadSet' || kind === 'tag') && (
        <Entry
          label={ITEMS[kind]}
          width="100%"
          placeholder="one, two, three"
          value={itemsText(entry.items)}
          read={(text) => itemsRead(index, kind, text)}
          onTake={(items) =>
            ask(`${name} is ${itemsText(items) || 'empty'}`, changeItems(index, entry, items), key)
          }
        />
      )}
      {kind === 'peer' && (
        <label>
          Role{' '}
          <select
            className="line"
            value={entry.about}
            onChange={(e) => {
              const role = e.target.value as Peer['role'];
              const value = (index.project.peers ?? []).map((p) => (p.name === name ? { ...p, role } : p));
              session.edit({
                label: `peer ${name} is a ${role}`,
                changes: [{ op: 'set', part: 'peers', value }],
              });
            }}
          >
            <option>server</option>
            <option>client</option>
          </select>
        </label>
      )}
      {carries && (
        <>
          <Entry
            label={kind === 'action' ? 'Parameters' : 'Payload'}
            width="100%"
            placeholder="none; for example speed: float, line: enum:Line"
            value={printFields(entry.fields)}
            read={fieldsRead}
            onTake={(fields) =>
              ask(
                `${name} carries ${printFields(fields) || 'nothing'}`,
                changeFields(index, entry, fields),
                key,
              )
            }
          />
          <Entry
            label="Note"
            width="100%"
            placeholder="what it is for"
            value={entry.note}
            read={(text): Read<string> => ({ value: text })}
            onTake={(note) =>
              session.edit({ label: `${said}noted ${name}`, changes: noteEntry(index, entry, note) })
            }
          />
        </>
      )}
      <p className="soft">
        {entry.kind === 'event' && `Cause: ${entry.about}. `}
        {entry.marks.join(' · ')}
      </p>
      {findings.map((f) => (
        <FaultLine key={f.fingerprint} finding={f} href={`${base}/audit`} />
      ))}
      {carries && (
        <Uses
          index={index}
          base={base}
          uses={uses.filter((u) => u.side === 'brings')}
          title={
            kind === 'action'
              ? 'Done by'
              : kind === 'channel'
                ? 'Triggered by'
                : kind === 'event'
                  ? 'Raised by'
                  : 'Declared with'
          }
        />
      )}
      {!carries && <NamedUses uses={named} />}
      {(kind === 'event' || kind === 'channel') && (
        <Uses index={index} base={base} uses={uses.filter((u) => u.side === 'hears')} title="Listeners" />
      )}
      <div className="row">
        <button
          type="button"
          className="tick"
          data-action="remove"
          onClick={() => ask(`removed the ${word} ${name}`, retireEntry(index, entry), '')}
        >
          Remove
        </button>
        {alike.length > 0 && (
          <select
            className="line"
            aria-label="Merge into"
            value=""
            onChange={(e) => {
              const into = alike.find((a) => a.name === e.target.value);
              if (into) {
                ask(
                  `merged the ${word} ${name} into ${into.name}`,
                  mergeEntries(index, entry, into),
                  entryKey(into),
                );
              }
            }}
          >
            <option value="">merge into …</option>
            {alike.map((a) => (
              <option key={a.name}>{a.name}</option>
            ))}
          </select>
        )}
        {(kind === 'event' || kind === 'action') && (
          <select
            className="line"
            aria-label="Move it to"
            value=""
            onChange={(e) => {
              const to = e.target.value;
              if (to === '') return;
              ask(
                `moved the ${word} ${name} to ${to}`,
                moveEntry(index, entry, to),
                entryKey({ kind, asset: to, name }),
              );
            }}
          >
            <option value="">move to …</option>
            {index.assets
              .filter((a) => a.decl.id !== asset && !(kind === 'event' ? a.eventAt : a.actionAt).has(name))
              .map((a) => (
                <option key={a.decl.id}>{a.decl.id}</option>
              ))}
          </select>
        )}
      </div>
      {pending && (
        <ImpactPanel
          uses={named}
          changeSet={pending.changeSet}
          onDo={() => {
            if (session.edit(pending.changeSet)) onGo(pending.then);
            setPending(null);
          }}
          onKeep={() => {
            setPending(null);
            setRound(round + 1);
          }}
        />
      )}
    </article>
  );
}
