import type { Rehearsal, Step, TraceRecord } from '@oquel/core';
import type { ReactNode } from 'react';
import { Entry, type Read } from '../../parts/ui/entry.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { AddSteps } from './add-steps.js';
import {
  added,
  changed,
  freeName,
  removed,
  stepMovedTo,
  stepText,
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
}

/** The script of one rehearsal: its steps in order, each with what came of it. */
export function ScriptPanel({ rehearsal, records, cursor, at, onName, onCursor }: Props): ReactNode {
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
            <li key={i} className={stepClass(record, here?.step === i)} data-step={i}>
              <Entry
                label={`Time of step ${i + 1}`}
                shown=""
                unit="s"
                width={44}
                value={String(step.at)}
                read={readSeconds}
                onTake={(to) => session.edit(stepMovedTo(project, rehearsal, i, to))}
              />
              <button
                type="button"
                className="plain"
                disabled={!record}
                onClick={() => record && onCursor(record.n)}
              >
                {stepText(step)}
                {record && <StepResult record={record} />}
              </button>
              <button
                type="button"
                className="word"
                aria-label={`Remove step ${i + 1}`}
                onClick={() => session.edit(withoutStep(project, rehearsal, i))}
              >
                ×
              </button>
            </li>
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

function StepResult({ record }: { record: TraceRecord }): ReactNode {
  if (record.kind === 'expect') {
    if (record.ok) return <span className="fault good"> holds</span>;
    const got = record.reason ?? (record.got === null ? 'unknown' : JSON.stringify(record.got));
    return <span className="fault error"> fails: {got}</span>;
  }
  if (record.kind === 'refused') return <span className="fault warning"> refused: {record.reason}</span>;
  return record.kind === 'lost' ? <span className="fault warning"> lost: {record.reason}</span> : null;
}
function stepClass(record: TraceRecord | undefined, here: boolean): string {
  const fails = record?.kind === 'expect' && !record.ok;
  return [here ? 'here' : '', fails ? 'failing' : ''].filter(Boolean).join(' ');
}
function readSeconds(text: string): Read<number> {
  const n = Number(text);
  return text.trim() !== '' && Number.isFinite(n) && n >= 0 ? { value: n } : { error: 'seconds, 0 or more' };
}
function nameRead(text: string, rehearsals: readonly Rehearsal[]): Read<string> {
  const name = text.trim();
  if (name === '') return { error: 'a name' };
  return rehearsals.some((r) => r.name === name) ? { error: 'there is one of that name' } : { value: name };
}
