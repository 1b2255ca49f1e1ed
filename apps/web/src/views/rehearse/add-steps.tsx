import type { Step, Value } from '@oquel/core';
import { useId, useState, type KeyboardEvent, type ReactNode } from 'react';
import { Entry } from '../../parts/ui/entry.js';
import { useSessionState } from '../../session/session-context.js';
import { FieldEntry } from './field-entry.js';
import { readKey, readRaise } from './typed-steps.js';

/** Steps that are not pointed at on the plan: pauses, channels that are told, and events that are typed. */
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
      <TypedRaise at={at} onStep={onStep} />
    </div>
  );
}

/** A channel with the key and the fields that are told on it. */
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
/** `pylon-ridge:mast-2.onGust`: also for what is not on the plan, such as a copy that is spawned meanwhile. */
function TypedRaise({ at, onStep }: { at: number; onStep: (step: Step) => void }): ReactNode {
  const { index } = useSessionState();
  const [text, setText] = useState('');
  const told = useId();
  const { raise, doubt } = readRaise(index, text);
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key !== 'Enter' || !raise) return;
    e.preventDefault();
    onStep({ at, raise });
    setText('');
  };
  return (
    <div className="row">
      <input
        className="line code"
        aria-label="Raise, typed"
        aria-describedby={told}
        aria-invalid={text.trim() !== '' && !raise}
        placeholder="or type scene:thing.event"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={onKeyDown}
      />
      <span id={told} className={raise ? 'fault warning' : 'soft'} role="status">
        {doubt === '' && raise ? 'Enter adds it' : doubt}
      </span>
    </div>
  );
}
