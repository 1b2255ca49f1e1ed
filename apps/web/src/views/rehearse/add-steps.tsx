import type { Step, Value } from '@oquel/core';
import { useId, useState, type KeyboardEvent, type ReactNode } from 'react';
import { Entry } from '../../parts/ui/entry.js';
import { useSessionState } from '../../session/session-context.js';
import { FieldEntry } from './field-entry.js';
import { readKey, readTypedStep } from './typed-steps.js';

/** Steps that are not pointed at on the plan: pauses, channels that are published to, and events that are typed. */
export function AddSteps({ at, onStep }: { at: number; onStep: (step: Step) => void }): ReactNode {
  return (
    <div className="addsteps">
      <div className="row">
        <span className="soft">at {at} s:</span>
        <button type="button" className="tick" onClick={() => onStep({ at, pause: true })}>
          add a pause of the game
        </button>
        <button type="button" className="tick" onClick={() => onStep({ at, pause: false })}>
          add its resume
        </button>
      </div>
      <TellChannel at={at} onStep={onStep} />
      <TypedStep at={at} onStep={onStep} />
    </div>
  );
}

/** A channel with the key and the fields that are published on it. */
function TellChannel({ at, onStep }: { at: number; onStep: (step: Step) => void }): ReactNode {
  const { index, project } = useSessionState();
  const [name, setName] = useState('');
  const [key, setKey] = useState<Value | null>(null);
  const [payload, setPayload] = useState<Record<string, Value>>({});
  const channels = project.channels ?? [];
  const channel = channels.find((c) => c.name === name);
  if (channels.length === 0) return null;
  return (
    <div className="row">
      <select
        className="line"
        aria-label="Channel to publish to"
        value={name}
        onChange={(e) => {
          setName(e.target.value);
          setKey(null);
          setPayload({});
        }}
      >
        <option value="">channel</option>
        {channels.map((c) => (
          <option key={c.name}>{c.name}</option>
        ))}
      </select>
      {channel && (
        <>
          <Entry
            label={`Key on ${name}`}
            shown="key"
            width={70}
            placeholder="none"
            value={key === null ? '' : String(key)}
            read={readKey}
            onTake={setKey}
          />
          {(channel.payload ?? []).map((f) => (
            <FieldEntry
              key={f.name}
              index={index}
              field={f}
              of={name}
              value={payload[f.name]}
              onTake={(value) => setPayload({ ...payload, [f.name]: value })}
            />
          ))}
        </>
      )}
      <button
        type="button"
        className="tick"
        disabled={!channel}
        onClick={() =>
          onStep({
            at,
            publish: {
              channel: name,
              ...(key === null ? {} : { key }),
              ...(Object.keys(payload).length > 0 ? { payload } : {}),
            },
          })
        }
      >
        Publish
      </button>
    </div>
  );
}
/**
 * Any step as it is written, or an event alone, which is raised: also of what is not on the plan, such as a copy that is spawned
 * meanwhile.
 */
function TypedStep({ at, onStep }: { at: number; onStep: (step: Step) => void }): ReactNode {
  const { index } = useSessionState();
  const [text, setText] = useState('');
  const messageId = useId();
  const { action, doubt } = readTypedStep(index, text);
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key !== 'Enter' || !action) return;
    e.preventDefault();
    onStep({ at, ...action });
    setText('');
  };
  return (
    <div className="row">
      <input
        className="line code"
        aria-label="Step, typed"
        aria-describedby={messageId}
        aria-invalid={text.trim() !== '' && !action}
        placeholder="or type scene:thing.event, or expect …"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={onKeyDown}
      />
      <span id={messageId} className={action ? 'fault warning' : 'soft'} role="status">
        {doubt === '' && action ? 'Enter adds it' : doubt}
      </span>
    </div>
  );
}
