import {
  needsText,
  type AnyKind,
  type Change,
  type FindingChange,
  type TableMapping,
  type Wish,
} from '@oquel/core';
import { useEffect, useState, type ReactNode } from 'react';
import { Making } from '../../parts/needs-list.js';
import { usePreview } from '../../session/use-preview.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import type { TableLook } from '../../workers/table-incoming.js';
import { ALL_KINDS, kindText } from './kind-text.js';
import { TableRows } from './table-rows.js';
import { countText } from '../../format.js';

/** A table: what it is of, which column is what, what each row would become, and what the audit would say. */
export function TablePanel({
  file,
  text,
  onDone,
}: {
  file: string;
  text: string;
  onDone: () => void;
}): ReactNode {
  const session = useSession();
  const { index, project } = useSessionState();
  const [owner, setOwner] = useState('');
  const [mapping, setMapping] = useState<TableMapping | null>(null);
  const [kind, setKind] = useState<AnyKind | null>(null);
  const [isMaking, setMaking] = useState(true);
  const [wishes, setWishes] = useState<ReadonlyMap<string, Wish>>(new Map());
  const [look, setLook] = useState<TableLook | null>(null);
  const [fault, setFault] = useState('');
  useEffect(() => {
    let current = true;
    session.table({ text, file, kind, mapping, owner, isMaking, wishes }).then(
      (answer) => {
        if (!current) return;
        if ('fault' in answer) setFault(answer.fault);
        else {
          setFault('');
          setLook(answer);
        }
      },
      (error: unknown) => current && setFault(error instanceof Error ? error.message : String(error)),
    );
    return () => {
      current = false;
    };
    // Read anew when the project has changed: what already exists may be another.
  }, [session, text, file, kind, mapping, owner, isMaking, wishes, project]);
  if (fault !== '') {
    return (
      <div className="notice" role="alert">
        <b>{file} was not imported; nothing is stored.</b>
        <div>{fault}</div>
      </div>
    );
  }
  if (!look) return <p role="status">Reading {file} ...</p>;
  const { counts, needs, changes } = look;
  const map = (field: string, column: string): void => {
    const next = { ...look.mapping };
    const rest = Object.fromEntries(Object.entries(next).filter(([name]) => name !== field));
    setMapping(column === '' ? rest : { ...rest, [field]: Number(column) });
  };
  const n = counts.new + counts.changed;
  return (
    <section className="csvin" aria-label={`Table of ${file}`}>
      <h2>
        {countText(look.total, 'row')} <span className="soft">of {file}, as</span>{' '}
        <select
          className="line"
          aria-label="What the table is of"
          value={look.kind}
          onChange={(e) => {
            setKind(e.target.value as AnyKind);
            setMapping(null);
          }}
        >
          {ALL_KINDS.map((k) => (
            <option key={k} value={k}>
              {kindText(k)}
            </option>
          ))}
        </select>{' '}
        <span className="soft">Nothing is saved yet.</span>
      </h2>
      <div className="mapping" role="group" aria-label="Which column is what">
        {look.fields.map((field) => (
          <label key={field}>
            <span>{field}</span>
            <select
              className="line"
              aria-label={`Column of ${field}`}
              value={look.mapping[field] ?? ''}
              onChange={(e) => map(field, e.target.value)}
            >
              <option value="">-</option>
              {look.columns.map((c, i) => (
                <option key={i} value={i}>
                  {c}
                  {look.sample[0]?.[i] ? ` (${look.sample[0][i].slice(0, 24)})` : ''}
                </option>
              ))}
            </select>
          </label>
        ))}
        {look.fields.includes('asset') && (
          <label>
            <span>default asset</span>
            <select
              className="line"
              aria-label="Default asset"
              value={owner}
              onChange={(e) => setOwner(e.target.value)}
            >
              <option value="">-</option>
              {index.assets.map((a) => (
                <option key={a.decl.id}>{a.decl.id}</option>
              ))}
            </select>
          </label>
        )}
      </div>
      <div className="row">
        <button
          type="button"
          className="tick"
          disabled={n === 0 || !changes}
          ref={(el) => {
            // Enter brings in at once what needs no answer.
            if (el && !el.disabled && document.activeElement === document.body) el.focus();
          }}
          title="One edit, which can be undone"
          onClick={() => {
            const made = needs.length > 0 ? `, made ${needsText(needs)}` : '';
            const label = `imported ${n} ${kindText(look.kind, n)} from ${file}${made}`.slice(0, 500);
            if (changes && session.edit({ label, changes })) onDone();
          }}
        >
          Import {counts.new} new{counts.changed > 0 && ` and ${counts.changed} changed`}
        </button>
        <button type="button" className="tick" onClick={onDone}>
          Cancel
        </button>
        <span role="status">
          {counts.same > 0 && `${counts.same} unchanged. `}
          {counts.broken > 0 && (
            <b className="fault error">
              {countText(counts.broken, 'row')} {counts.broken === 1 ? 'has' : 'have'} errors.
            </b>
          )}
        </span>
        {n > 0 && changes && <Findings changes={changes} />}
        {needs.some((need) => need.isOpen) && <b>Some names need a decision.</b>}
      </div>
      <Making
        needs={needs}
        isMaking={isMaking}
        onMaking={setMaking}
        onWish={(key, wish) => setWishes(new Map(wishes).set(key, wish))}
      />
      <TableRows look={look} />
    </section>
  );
}

function Findings({ changes }: { changes: readonly Change[] }): ReactNode {
  const found: FindingChange | null = usePreview(changes);
  if (!found) return <span className="soft">Checking findings ...</span>;
  return (
    <span>
      Findings: {found.added.length} new, {found.gone.length} gone.
    </span>
  );
}
