import type { Rehearsal, Step, TraceRecord } from '@oquel/core';
import type { ReactNode } from 'react';
import { Entry, type Read } from '../../parts/ui/entry.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { AddSteps } from './add-steps.js';
import { StepRow } from './step-row.js';
import {
  added,
  changed,
  freeName,
  removed,
  stepMovedTo,
  stepReplaced,
  withoutStep,
  withSteps,
} from './script-edits.js';

interface Props {
  rehearsal: Rehearsal;
  records: readonly TraceRecord[];
  cursor: number;
  /** Seconds at which a new step is put. */
  at: number;
  onName: (name: string) => void;
  onCursor: (n: number) => void;
  /** The address of the thing that was pressed on the plan last; empty for none. */
  pointed: string;
}

/** The script of one rehearsal: its steps in order, each with what came of it. */
export function ScriptPanel({ rehearsal, records, cursor, at, onName, onCursor, pointed }: Props): ReactNode {
  const session = useSession();
  const { project } = useSessionState();
  const byStep = new Map<number, TraceRecord>();
  for (const r of records) if (r.step !== undefined && !byStep.has(r.step)) byStep.set(r.step, r);
  const here = records.find((r) => r.n === cursor);
  const add = (step: Step): void => void session.edit(withSteps(project, rehearsal, [step]));
  const edit = (label: string, next: Rehearsal): void => {
    session.edit(changed(project, rehearsal.name, label, next));
  };
  return (
    <div className="script">
      <div className="row">
        <Entry
          label="Name of the rehearsal"
          shown=""
          width={190}
          value={rehearsal.name}
          read={(text): Read<string> => nameRead(text, project.rehearsals ?? [])}
          onTake={(name) => {
            edit(`renamed the rehearsal "${rehearsal.name}" to "${name}"`, { ...rehearsal, name });
            onName(name);
          }}
        />
        <button
          type="button"
          className="word"
          onClick={() => {
            const name = freeName(project, `${rehearsal.name} again`);
            if (session.edit(added(project, { ...rehearsal, name }))) onName(name);
          }}
        >
          Copy
        </button>
        <button
          type="button"
          className="word"
          onClick={() => session.edit(removed(project, rehearsal.name)) && onName('')}
        >
          Remove
        </button>
      </div>
      <label className="field">
        with
        <select
          className="line"
          aria-label="Load set"
          value={rehearsal.loadSet ?? ''}
          onChange={(e) => {
            const { loadSet: _old, ...rest } = rehearsal;
            const next = e.target.value === '' ? rest : { ...rest, loadSet: e.target.value };
            edit(`rehearsal "${rehearsal.name}" with ${e.target.value || 'all scenes'}`, next);
          }}
        >
          <option value="">all scenes</option>
          {(project.loadSets ?? []).map((s) => (
            <option key={s.name} value={s.name}>
              {s.name}: {s.scenes.join(', ')}
            </option>
          ))}
          {rehearsal.loadSet !== undefined &&
            !project.loadSets?.some((s) => s.name === rehearsal.loadSet) && (
              <option value={rehearsal.loadSet}>{rehearsal.loadSet} (not there)</option>
            )}
        </select>
      </label>
      <label className="field">
        <input
          type="checkbox"
          checked={rehearsal.strict === true}
          onChange={(e) => {
            const { strict: _old, ...rest } = rehearsal;
            const on = e.target.checked;
            edit(
              `rehearsal "${rehearsal.name}" ${on ? 'fails' : 'no longer fails'} if anything is lost or refused`,
              on ? { ...rest, strict: true } : rest,
            );
          }}
        />
        fails if anything is lost or refused
      </label>
      <Entry
        label="Note"
        shown=""
        width="100%"
        placeholder="what it shows"
        value={rehearsal.note ?? ''}
        read={(text): Read<string> => ({ value: text })}
        onTake={(note) => edit(`noted the rehearsal "${rehearsal.name}"`, { ...rehearsal, note })}
      />
      <ol className="scriptsteps" aria-label="Steps">
        {rehearsal.steps.map((step, i) => {
          const record = byStep.get(i);
          return (
            <StepRow
              key={i}
              n={i}
              step={step}
              record={record}
              here={here?.step === i}
              pointed={pointed}
              onCursor={onCursor}
              onTime={(to) => session.edit(stepMovedTo(project, rehearsal, i, to))}
              onChange={(action) => session.edit(stepReplaced(project, rehearsal, i, action))}
              onRemove={() => session.edit(withoutStep(project, rehearsal, i))}
            />
          );
        })}
      </ol>
      {rehearsal.steps.length === 0 && (
        <p className="soft">
          No steps yet: press something on the plan, draw a walk, or publish to a channel.
        </p>
      )}
      <AddSteps at={at} onStep={add} />
    </div>
  );
}

function nameRead(text: string, rehearsals: readonly Rehearsal[]): Read<string> {
  const name = text.trim();
  if (name === '') return { error: 'a name' };
  return rehearsals.some((r) => r.name === name) ? { error: 'there is one of that name' } : { value: name };
}
