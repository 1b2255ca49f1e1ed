import { useId, type ReactNode } from 'react';

const LEAST = 7;
const MOST = 3650;

/** The days that a text means; undefined for none, null where it is no number of days that may be asked for. */
export function daysOf(text: string): number | undefined | null {
  if (text.trim() === '') return undefined;
  const days = Number(text);
  return Number.isInteger(days) && days >= LEAST && days <= MOST ? days : null;
}

/** How old something has to be to go; empty, all of it stays. */
export function AgeField({
  label,
  stays,
  text,
  onText,
}: {
  label: string;
  stays: string;
  text: string;
  onText: (text: string) => void;
}): ReactNode {
  const id = useId();
  const isWrong = daysOf(text) === null;
  return (
    <p className="agefield">
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        className="line"
        inputMode="numeric"
        value={text}
        aria-invalid={isWrong}
        aria-describedby={`${id}-stays`}
        onChange={(e) => onText(e.target.value)}
      />
      days
      <span id={`${id}-stays`} className={isWrong ? 'complaint' : 'soft'}>
        {isWrong
          ? `Give a whole number of days from ${LEAST} to ${MOST}, or nothing to keep all.`
          : text.trim() === ''
            ? 'Stays: all of it.'
            : stays}
      </span>
    </p>
  );
}
