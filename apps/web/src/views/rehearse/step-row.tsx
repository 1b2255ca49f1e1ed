import {
  missingFields,
  parseStep,
  printStep,
  stepOfAnother,
  type Step,
  type StepAction,
  type TraceRecord,
} from '@oquel/core';
import { useEffect, useId, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { Entry, type Read } from '../../parts/ui/entry.js';
import { useSessionState } from '../../session/session-context.js';
import { stepText } from './script-edits.js';

interface Props {
  /** Its number, from 0. */
  n: number;
  step: Step;
  /** What came of it first; absent where it did not run. */
  record: TraceRecord | undefined;
  here: boolean;
  /** The address of the thing that was pressed on the plan last; empty for none. */
  pointed: string;
  onCursor: (n: number) => void;
  onTime: (at: number) => void;
  onChange: (action: StepAction) => boolean;
  onRemove: () => void;
}

/** One step of the script: its time, what happens, and what came of it. It is changed in place, typed or by pointing. */
export function StepRow({
  n,
  step,
  record,
  here,
  pointed,
  onCursor,
  onTime,
  onChange,
  onRemove,
}: Props): ReactNode {
  const { index } = useSessionState();
  const [isOpen, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const missing = missingFields(index, step);
  const close = (): void => {
    setOpen(false);
    requestAnimationFrame(() => button.current?.focus());
  };
  return (
    <li className={stepClass(record, here)} data-step={n}>
      <Entry
        label={`Time of step ${n + 1}`}
        shown=""
        unit="s"
        width={44}
        value={String(step.at)}
        read={readSeconds}
        onTake={onTime}
      />
      {isOpen ? (
        <StepLine
          n={n}
          step={step}
          pointed={pointed}
          onTake={(action) => {
            if (onChange(action)) close();
          }}
          onClose={close}
        />
      ) : (
        <button
          type="button"
          className="plain"
          ref={button}
          title="F2 or a double click changes it"
          onClick={() => record && onCursor(record.n)}
          onDoubleClick={() => setOpen(true)}
          onKeyDown={(e) => {
            if (e.key !== 'F2') return;
            e.preventDefault();
            setOpen(true);
          }}
        >
          {stepText(step)}
          {missing.length > 0 && (
            <span className="fault warning"> needs {missing.map((f) => f.name).join(', ')}</span>
          )}
          {record && <StepResult record={record} />}
        </button>
      )}
      {!isOpen && (
        <button
          type="button"
          className="word"
          aria-label={`Change step ${n + 1}`}
          onClick={() => setOpen(true)}
        >
          Change
        </button>
      )}
      <button type="button" className="word" aria-label={`Remove step ${n + 1}`} onClick={onRemove}>
        ×
      </button>
    </li>
  );
}

/** The step as a line that can be typed over; a thing that is pressed on the plan takes the place of the one in it. */
function StepLine({
  n,
  step,
  pointed,
  onTake,
  onClose,
}: {
  n: number;
  step: Step;
  pointed: string;
  onTake: (action: StepAction) => void;
  onClose: () => void;
}): ReactNode {
  const { index } = useSessionState();
  const messageId = useId();
  const [text, setText] = useState(() => beginning(step, missingFields(index, step)));
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const field = input.current!;
    field.focus();
    // What is missing is typed first.
    const gap = field.value.indexOf('= ,') >= 0 ? field.value.indexOf('= ,') : field.value.indexOf('= )');
    if (gap >= 0) field.setSelectionRange(gap + 2, gap + 2);
    else field.select();
  }, []);
  const first = useRef(pointed);
  useEffect(() => {
    if (pointed === '' || pointed === first.current) return;
    first.current = pointed;
    setText((line) => stepOfAnother(line, pointed) ?? line);
  }, [pointed]);
  const parsed = parseStep(text);
  const fault = 'fault' in parsed ? parsed.fault : null;
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key !== 'Enter' && e.key !== 'Escape') return;
    e.preventDefault();
    e.stopPropagation();
    if (e.key === 'Escape') onClose();
    else if ('value' in parsed) onTake(parsed.value);
    else input.current?.setSelectionRange(parsed.fault.at, text.length);
  };
  return (
    <span className="stepline">
      <input
        ref={input}
        className="line code"
        aria-label={`Step ${n + 1}`}
        aria-describedby={messageId}
        aria-invalid={fault !== null}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={onKeyDown}
      />
      <span id={messageId} className={fault ? 'fault error' : 'soft'} role="status">
        {fault
          ? `at character ${fault.at + 1}: ${fault.message}`
          : 'Enter saves, Escape cancels; press a thing on the plan to put it here'}
      </span>
    </span>
  );
}

/** The line with gaps for the fields that are missing. */
function beginning(step: Step, missing: readonly { name: string }[]): string {
  const line = printStep(step);
  if (missing.length === 0) return line;
  const gaps = missing.map((f) => `${f.name} = `).join(', ');
  const head = /^(raise [^\s(]+|publish [^\s(]+)(\(([^)]*)\))?/.exec(line);
  if (!head) return line;
  const given = head[3] ? `${head[3]}, ` : '';
  return `${head[1]}(${given}${gaps})${line.slice(head[0].length)}`;
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
