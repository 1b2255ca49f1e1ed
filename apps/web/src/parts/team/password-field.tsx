import { useState, type ReactNode } from 'react';

/** A new password, which can be looked at while it is typed; managers of passwords may fill it in. */
export function PasswordField({
  label,
  value,
  isNew = false,
  onValue,
}: {
  label: string;
  value: string;
  isNew?: boolean;
  onValue: (value: string) => void;
}): ReactNode {
  const [seen, setSeen] = useState(false);
  return (
    <label>
      {label}
      <span className="row">
        <input
          className="line"
          aria-label={label}
          type={seen ? 'text' : 'password'}
          autoComplete={isNew ? 'new-password' : 'current-password'}
          value={value}
          onChange={(e) => onValue(e.target.value)}
        />
        <button type="button" className="word" aria-pressed={seen} onClick={() => setSeen(!seen)}>
          {seen ? 'Hide' : 'Show'}
        </button>
      </span>
    </label>
  );
}
