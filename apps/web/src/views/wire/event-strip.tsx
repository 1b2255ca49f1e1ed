import type { ArgScope, AssetIndex, ChangeSet, Finding, ProjectIndex } from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { SentenceRow } from './sentence-row.js';
import type { Strip } from './strips.js';

interface Props {
  index: ProjectIndex;
  owner: AssetIndex;
  strip: Strip;
  channel: boolean;
  active: boolean;
  scope: ArgScope;
  findings: readonly Finding[];
  /** The sender's address, where it has one of its own. */
  address: string | null;
  ofBinding: ReadonlyMap<string, readonly Finding[]>;
  auditHref: string;
  sought: string;
  onActivate: () => void;
  onAdd: () => void;
  onEdit: (changeSet: ChangeSet) => boolean;
}

/** One event: how many bindings it has, what it is, and each binding as a sentence in running order. */
export function EventStrip(props: Props): ReactNode {
  const { index, owner, strip, channel, active, scope, findings, ofBinding, auditHref, sought, onEdit } =
    props;
  const { bindings } = strip;
  const move = (at: number, by: -1 | 1): void => {
    const neighbour = bindings[at + by];
    if (!neighbour) return;
    const { id } = bindings[at];
    const asset = owner.decl.id;
    onEdit({
      label: `${asset}: ${id} runs ${by < 0 ? 'earlier' : 'later'}`,
      changes: [{ op: 'move', list: 'bindings', asset, id, index: owner.bindingAt.get(neighbour.id)! }],
    });
  };
  return (
    <section
      className={`eventstrip ${active ? 'active' : ''}`}
      aria-label={`${channel ? 'Channel' : 'Event'} ${strip.event}, ${bindings.length} bindings`}
      data-event={strip.event}
      onPointerDown={props.onActivate}
      onFocus={props.onActivate}
    >
      <div className={`count ${bindings.length === 0 ? 'zero' : ''}`}>{bindings.length}</div>
      <div className="body">
        <h2>
          <span>
            when {channel ? '#' : ''}
            {strip.event}
          </span>
          <span className={`about ${strip.missing ? 'fault error' : ''}`} title={strip.about}>
            {strip.about}
          </span>
        </h2>
        {findings.map((f) => (
          <div key={f.fingerprint} className={`fault ${f.severity}`}>
            <SeverityMark severity={f.severity} label={SEVERITY_WORD[f.severity]} /> {f.message}
            {namesAnother(f, props.address) && ' (here too)'}.{' '}
            <Link to={`${auditHref}?finding=${f.fingerprint}`}>Show</Link>
          </div>
        ))}
        {bindings.length > 0 && (
          <ol className="sentences">
            {bindings.map((b, i) => (
              <SentenceRow
                key={b.id}
                index={index}
                owner={owner}
                binding={b}
                nth={i + 1}
                of={bindings.length}
                scope={scope}
                findings={ofBinding.get(b.id) ?? []}
                auditHref={auditHref}
                sought={b.id === sought}
                onEdit={onEdit}
                onMove={(by) => move(i, by)}
              />
            ))}
          </ol>
        )}
        <div className="under">
          {bindings.length === 0 && <span className="soft">nobody hears this</span>}
          {!strip.missing && (
            <button type="button" className="word" onClick={props.onAdd}>
              Add a receiver
            </button>
          )}
          {active && !strip.missing && <kbd>A</kbd>}
        </div>
      </div>
    </section>
  );
}

/** A finding of many copies names the first of them, which may be another than the one that is looked at. */
function namesAnother({ message, occurrences }: Finding, address: string | null): boolean {
  const [first] = occurrences;
  return address !== null && first !== undefined && first !== address && message.includes(first);
}
