import type { Delivery, EventDecl, Role, Roles } from '@oquel/core';
import type { ReactNode } from 'react';
import { Tick, without } from './declared-parts.js';

const ROLES: readonly Role[] = ['authority', 'operator', 'others'];

/** Who may raise an event and who receives it, by their roles towards the sender. */
export function DeliveryRow({
  event,
  onSet,
}: {
  event: EventDecl;
  onSet: (next: EventDecl) => void;
}): ReactNode {
  const { name, delivery = {} } = event;
  const set = (next: Delivery): void =>
    onSet(without({ ...event, delivery: next }, 'delivery', Object.keys(next).length === 0));
  return (
    <div className="row">
      <label>
        raised by{' '}
        <RolesSelect
          label={`Who may raise ${name}`}
          value={delivery.send}
          special="nobody"
          onChange={(send) =>
            set(without({ ...delivery, send: send as Delivery['send'] }, 'send', send === undefined))
          }
        />
      </label>
      <label>
        received by{' '}
        <RolesSelect
          label={`Who receives ${name}`}
          value={delivery.to}
          special="raiser"
          onChange={(to) => set(without({ ...delivery, to: to as Delivery['to'] }, 'to', to === undefined))}
        />
      </label>
      <Tick
        text="unreliable"
        on={delivery.reliable === false}
        onSet={(on) => set(without({ ...delivery, reliable: !on }, 'reliable', !on))}
      />
    </div>
  );
}

type Who = Roles | 'nobody' | 'raiser';
function RolesSelect({
  label,
  value,
  special,
  onChange,
}: {
  label: string;
  value: Who | undefined;
  special: 'nobody' | 'raiser';
  onChange: (value: Who | undefined) => void;
}): ReactNode {
  const now = value === undefined ? '' : JSON.stringify(value);
  const choices: Who[] = [
    ...ROLES.map((r): Who => ({ only: [r] })),
    ...ROLES.map((r): Who => ({ except: [r] })),
    special,
  ];
  const known = choices.map((c) => JSON.stringify(c));
  return (
    <select
      className="line"
      aria-label={label}
      value={now === '"everyone"' ? '' : now}
      onChange={(e) => onChange(e.target.value === '' ? undefined : (JSON.parse(e.target.value) as Who))}
    >
      <option value="">everyone</option>
      {choices.map((c, i) => (
        <option key={known[i]} value={known[i]}>
          {whoText(c)}
        </option>
      ))}
      {value !== undefined && now !== '"everyone"' && !known.includes(now) && (
        <option value={now}>{whoText(value)}</option>
      )}
    </select>
  );
}
function whoText(who: Who): string {
  if (typeof who === 'string') return who === 'raiser' ? 'the raiser' : who;
  return 'only' in who ? `only ${who.only.join(', ')}` : `all but ${who.except.join(', ')}`;
}
