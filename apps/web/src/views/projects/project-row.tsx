import { Menu, MenuItem } from '@mui/material';
import { LIMITS } from '@oquel/core';
import { useRef, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { ProjectLine } from '../../api/client.js';
import { SeverityMark } from '../../parts/ui/severity-mark.js';
import { projectHref } from '../../session/last-place.js';
import { agoText, countText, dayText, momentText } from '../../format.js';

export type ProjectState = ProjectLine['state'];

/** One project: its gate, what was done last and by whom, who has it open, and what can be done with it. */
export function ProjectRow({
  project,
  unsaved,
  onRename,
  onDuplicate,
  onState,
}: {
  project: ProjectLine;
  /** Edits that this browser has not been able to send. */
  unsaved: number;
  onRename: (name: string) => void;
  onDuplicate: () => void;
  onState: (state: ProjectState) => void;
}): ReactNode {
  const { id, name, state, last, here, goneAt } = project;
  const [renaming, setRenaming] = useState(false);
  return (
    <li className="projectrow" data-project={id}>
      <div className="what">
        {renaming ? (
          <NameInput
            name={name}
            onDone={(to) => {
              setRenaming(false);
              if (to !== null && to !== name) onRename(to);
            }}
          />
        ) : state === 'deleted' ? (
          <span className="name">{name}</span>
        ) : (
          <Link className="name" to={projectHref(id)}>
            {name}
          </Link>
        )}
        {unsaved > 0 && (
          <Link className="unstored" to={projectHref(id)}>
            {countText(unsaved, 'edit')} not stored
          </Link>
        )}
        {here.length > 0 && <span className="here">open: {here.join(', ')}</span>}
      </div>
      <GateText project={project} />
      <span className="soft last" title={momentText(project.updatedAt)}>
        {state === 'deleted' && goneAt
          ? `deleted for good on ${dayText(goneAt)}`
          : last
            ? `${last.label} — ${last.who}, ${agoText(project.updatedAt)}`
            : `created ${agoText(project.createdAt)}`}
      </span>
      {state === 'open' ? (
        <RowMenu
          name={name}
          items={[
            ['Rename', () => setRenaming(true)],
            ['Duplicate', onDuplicate],
            ['Archive', () => onState('archived')],
            ['Delete', () => onState('deleted')],
          ]}
        />
      ) : (
        <button type="button" className="word" aria-label={`Restore ${name}`} onClick={() => onState('open')}>
          Restore
        </button>
      )}
    </li>
  );
}

/** Whether it needs work: the gate in a word and a shape, with what stops it. */
function GateText({ project: { id, state, gate, version } }: { project: ProjectLine }): ReactNode {
  if (state !== 'open') return <span />;
  if (!gate) return <span className="soft">not audited yet</span>;
  const counts = (['error', 'warning', 'info'] as const).filter((s) => gate[s] > 0);
  return (
    <Link className="gate" to={`/p/${id}/audit`} data-gate={gate.gate}>
      <b>{gate.gate === 'pass' ? 'Passes' : 'Stops'}</b>
      {counts.map((s) => (
        <span key={s} className={`fault ${s}`}>
          <SeverityMark severity={s} label={countText(gate[s], s === 'info' ? 'note' : s)} />
          {gate[s]}
        </span>
      ))}
      <span className="soft">
        {countText(gate.bindings, 'binding')}
        {gate.version === version ? '' : ' (auditing ...)'}
      </span>
    </Link>
  );
}

function NameInput({
  name,
  onDone,
}: {
  name: string;
  /** Null gives it up. */
  onDone: (name: string | null) => void;
}): ReactNode {
  const [text, setText] = useState(name);
  const done = useRef(false);
  const finish = (to: string | null): void => {
    if (done.current) return;
    done.current = true;
    onDone(to);
  };
  return (
    <input
      className="line"
      aria-label={`New name of ${name}`}
      autoFocus
      value={text}
      maxLength={LIMITS.document.name}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => finish(text.trim() || null)}
      onKeyDown={(e) => {
        if (e.key === 'Enter') finish(text.trim() || null);
        if (e.key === 'Escape') finish(null);
      }}
    />
  );
}

function RowMenu({
  name,
  items,
}: {
  name: string;
  items: readonly (readonly [text: string, act: () => void])[];
}): ReactNode {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <button
        type="button"
        className="word"
        aria-label={`More actions for ${name}`}
        aria-haspopup="menu"
        aria-expanded={anchor !== null}
        onClick={(e) => setAnchor(e.currentTarget)}
      >
        More
      </button>
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        disableRestoreFocus={false}
      >
        {items.map(([text, act]) => (
          <MenuItem
            key={text}
            dense
            onClick={() => {
              setAnchor(null);
              // The menu gives the focus back first.
              setTimeout(act);
            }}
          >
            {text}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
