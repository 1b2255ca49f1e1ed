import {
  printBinding,
  type ArgScope,
  type AssetIndex,
  type ChangeSet,
  type Finding,
  type ProjectIndex,
  type SelectedNow,
} from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { copyText } from '../../parts/clipboard.js';
import { FaultLine } from '../../parts/fault-line.js';
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
  rippleHref: string;
  selected: ReadonlyMap<string, SelectedNow>;
  onActivate: () => void;
  onAdd: () => void;
  onEdit: (changeSet: ChangeSet) => boolean;
  onHear: (channel: string) => void;
}

/** Sentences that are drawn at first; one event rarely has more. */
const MOST = 100;

/** One event: how many bindings it has, what it is, and each binding as a sentence in running order. */
export function EventStrip(props: Props): ReactNode {
  const { index, owner, strip, channel, active, scope, findings, ofBinding, auditHref, sought, onEdit } =
    props;
  const { bindings } = strip;
  // A jump to one further down shows all.
  const [all, setAll] = useState(false);
  const shown = all || bindings.slice(MOST).some((b) => b.id === sought) ? bindings : bindings.slice(0, MOST);
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
  const dropOn = (id: string, on: string): void => {
    const asset = owner.decl.id;
    if (!bindings.some((b) => b.id === id)) return;
    onEdit({
      label: `${asset}: moved ${id} to the place of ${on}`,
      changes: [{ op: 'move', list: 'bindings', asset, id, index: owner.bindingAt.get(on)! }],
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
          <FaultLine
            key={f.fingerprint}
            finding={f}
            href={auditHref}
            more={namesAnother(f, props.address) ? ' (here too)' : ''}
            mark={<SeverityMark severity={f.severity} label={SEVERITY_WORD[f.severity]} />}
          />
        ))}
        {bindings.length > 0 && (
          <ol className="sentences">
            {shown.map((b, i) => (
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
                selected={props.selected.get(b.id)}
                onEdit={onEdit}
                onHear={props.onHear}
                onMove={(by) => move(i, by)}
                onDropped={(id) => dropOn(id, b.id)}
              />
            ))}
          </ol>
        )}
        {shown.length < bindings.length && (
          <button type="button" className="word" onClick={() => setAll(true)}>
            Show {bindings.length - shown.length} more
          </button>
        )}
        <div className="under">
          {bindings.length === 0 && (
            <span className="soft">{channel ? 'no listeners here' : 'no listeners'}</span>
          )}
          {!strip.missing && (
            <button type="button" className="word" onClick={props.onAdd}>
              Add a receiver
            </button>
          )}
          {active && !strip.missing && <kbd>A</kbd>}
          <Link to={props.rippleHref} title="What happens if this fires, hop by hop">
            Ripple
          </Link>
          {bindings.length > 0 && (
            <button
              type="button"
              className="word"
              title="As lines of text, to be pasted on another event or elsewhere"
              onClick={() => void copyText(bindings.map(printBinding).join('\n'))}
            >
              Copy as lines
            </button>
          )}
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
