import { suggestArgs, type ArgScope, type AssetIndex, type Field } from '@oquel/core';
import { useId, type ReactNode } from 'react';
import type { Draft } from './draft.js';
import { WhichFields } from './which-fields.js';

interface Props {
  params: readonly Field[];
  scope: ArgScope;
  draft: Draft;
  faults: ReadonlyMap<string, string>;
  onChange: (draft: Draft) => void;
  /** Whether a key can be given: the binding publishes to or hears a channel. */
  keyed: boolean;
  /** The asset of which every one is selected. */
  selected: AssetIndex | null;
}

/** Arguments, key, limit and delay of a binding, with what could stand in each. */
export function BindingFields({ params, scope, draft, faults, onChange, keyed, selected }: Props): ReactNode {
  return (
    <>
      {selected && (
        <WhichFields
          asset={selected}
          which={draft.which}
          fault={faults.get('equals')}
          onChange={(which) => onChange({ ...draft, which })}
        />
      )}
      {(params.length > 0 || keyed) && (
        <div className="row">
          <span className="lead">With</span>
          {params.map((p) => (
            <ArgField
              key={p.name}
              param={p}
              scope={scope}
              value={draft.args[p.name] ?? ''}
              fault={faults.get(p.name)}
              onChange={(text) => onChange({ ...draft, args: { ...draft.args, [p.name]: text } })}
            />
          ))}
          {keyed && (
            <label className="field">
              key
              <input
                className="line code"
                style={{ width: 96 }}
                value={draft.key}
                placeholder="none"
                aria-label="Key on the channel"
                onChange={(e) => onChange({ ...draft, key: e.target.value })}
              />
            </label>
          )}
        </div>
      )}
      <div className="row">
        <span className="lead">How</span>
        <button
          type="button"
          className="tick"
          aria-pressed={draft.limit === '1'}
          onClick={() => onChange({ ...draft, limit: draft.limit === '1' ? '' : '1' })}
        >
          once
        </button>
        <label className="field">
          at most
          <input
            className="line code"
            style={{ width: 40 }}
            inputMode="numeric"
            aria-label="Limit: how often it may run"
            aria-invalid={faults.has('limit')}
            value={draft.limit}
            onChange={(e) => onChange({ ...draft, limit: e.target.value })}
          />
        </label>
        <label className="field">
          after
          <input
            className="line code"
            style={{ width: 48 }}
            inputMode="decimal"
            aria-label="Delay in seconds"
            aria-invalid={faults.has('delay')}
            value={draft.delay}
            onChange={(e) => onChange({ ...draft, delay: e.target.value })}
          />
          s
        </label>
      </div>
      <div className="row">
        <span className="lead">If</span>
        <AsksField
          scope={scope}
          value={draft.asks}
          fault={faults.has('asks')}
          onChange={(asks) => onChange({ ...draft, asks })}
        />
      </div>
    </>
  );
}

/** What must hold for the binding to act, with what can be asked. */
function AsksField({
  scope: { payload, reader },
  value,
  fault,
  onChange,
}: {
  scope: ArgScope;
  value: string;
  fault: boolean;
  onChange: (text: string) => void;
}): ReactNode {
  const list = useId();
  const names = [...payload.map((f) => `$${f.name}`), ...(reader?.properties ?? []).map((p) => `@${p.name}`)];
  const example = names.length > 0 ? `always; or ${names[0]} = …` : 'always';
  return (
    <>
      <input
        className="line code"
        style={{ flex: 1 }}
        aria-label="Only if"
        aria-invalid={fault}
        placeholder={example}
        list={list}
        data-param="asks"
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
      <datalist id={list}>
        {names.map((name) => (
          <option key={name} value={`${name} = `} />
        ))}
      </datalist>
    </>
  );
}

function ArgField({
  param,
  scope,
  value,
  fault,
  onChange,
}: {
  param: Field;
  scope: ArgScope;
  value: string;
  fault: string | undefined;
  onChange: (text: string) => void;
}): ReactNode {
  const list = useId();
  return (
    <label className="field">
      <span>
        {param.name}
        <span className="soft">{param.optional ? `?: ${param.type}` : `: ${param.type}`}</span>
      </span>
      <input
        className="line code"
        style={{ width: 118 }}
        list={list}
        value={value}
        placeholder={param.optional ? 'left out' : ''}
        aria-label={`Argument ${param.name}, ${param.type}`}
        aria-invalid={fault !== undefined}
        data-param={param.name}
        onChange={(e) => onChange(e.target.value)}
      />
      <datalist id={list}>
        {suggestArgs(param.type, scope).map((s) => (
          <option key={s} value={s} />
        ))}
      </datalist>
    </label>
  );
}

/** What is wrong with the fields, once somebody has tried to use them. */
export function Complaints({ faults }: { faults: ReadonlyMap<string, string> }): ReactNode {
  if (faults.size === 0) return null;
  return (
    <div className="complaint" role="alert">
      {[...faults.values()].join('; ')}
    </div>
  );
}
