import { assetAtAddress, type Step, type Value } from '@oquel/core';
import { useId, useState, type KeyboardEvent, type ReactNode } from 'react';
import { Entry, type Read } from '../../parts/ui/entry.js';
import { useSessionState } from '../../session/session-context.js';
import { FieldEntry } from './field-entry.js';

/** Steps that are not pointed at on the plan: pauses, channels that are told, and events that are typed. */
export function AddSteps({ at, onStep }: { at: number; onStep: (step: Step) => void }): ReactNode {
  return (
    <div className="addsteps">
      <div className="row">
        <span className="soft">at {at} s</span>
        <button type="button" className="tick" onClick={() => onStep({ at, pause: true })}>
          pause
        </button>
        <button type="button" className="tick" onClick={() => onStep({ at, pause: false })}>
          go on
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
        aria-label="Channel to tell"
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
        tell it
      </button>
    </div>
  );
}
/** A number, yes or no as such, everything else as text; quotes make a text of anything. */
function readKey(text: string): Read<Value | null> {
  const bare = text.trim();
  if (bare === '') return { value: null };
  if (/^(true|false|-?\d+(\.\d+)?)$/.test(bare)) return { value: JSON.parse(bare) as Value };
  return { value: bare.replace(/^"(.*)"$/, '$1') };
}

/** `pylon-ridge:mast-2.onGust`: also for what is not on the plan, such as a copy that is spawned meanwhile. */
function TypedRaise({ at, onStep }: { at: number; onStep: (step: Step) => void }): ReactNode {
  const { index } = useSessionState();
  const [text, setText] = useState('');
  const told = useId();
  const match = /^(?<at>[^\s:]+:[^\s]+)\.(?<event>[A-Za-z_][\w-]*)$/.exec(text.trim());
  const { at: address, event } = match?.groups ?? {};
  const asset = match ? assetAtAddress(index, address) : null;
  const doubt =
    text.trim() === ''
      ? ''
      : !match
        ? 'a scene, a colon, a thing, a dot and an event'
        : !asset
          ? `nothing is called ${address}`
          : asset.eventAt.has(event)
            ? ''
            : `${asset.decl.id} has no event ${event}`;
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key !== 'Enter' || !match) return;
    e.preventDefault();
    onStep({ at, raise: { at: address, event } });
    setText('');
  };
  return (
    <div className="row">
      <input
        className="line code"
        aria-label="Raise, typed"
        aria-describedby={told}
        aria-invalid={text.trim() !== '' && !match}
        placeholder="or type scene:thing.event"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={onKeyDown}
      />
      <span id={told} className={match ? 'fault warning' : 'soft'} role="status">
        {doubt === '' && match ? 'Enter adds it' : doubt}
      </span>
    </div>
  );
}
