import type { ReactNode } from 'react';

/** Chooses the asset that does something: walks, enters, uses. Empty for nobody in particular. */
export function WhoSelect({
  label,
  shown,
  walkers,
  value,
  onChange,
}: {
  label: string;
  /** What stands before the field. */
  shown: string;
  walkers: readonly string[];
  value: string;
  onChange: (asset: string) => void;
}): ReactNode {
  return (
    <label className="field">
      {shown}
      <select className="line" aria-label={label} value={value} onChange={(e) => onChange(e.target.value)}>
        <option value="">nobody in particular</option>
        {walkers.map((w) => (
          <option key={w}>{w}</option>
        ))}
      </select>
    </label>
  );
}
