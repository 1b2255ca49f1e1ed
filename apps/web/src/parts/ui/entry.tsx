import { useEffect, useRef, useState, type ReactNode } from 'react';

export type Read<T> = { value: T } | { error: string };

/** A field that is taken with Enter or when it is left, and given up with Escape. */
export function Entry<T>({
  label,
  shown = label,
  value,
  unit,
  width,
  placeholder,
  read,
  warn,
  onTake,
  onEnd,
  name,
}: {
  label: string;
  /** What stands before the field; the label is read out all the same. */
  shown?: string;
  value: string;
  unit?: string;
  width: number | string;
  placeholder?: string;
  read: (text: string) => Read<T>;
  warn?: (text: string) => string;
  onTake: (value: T) => void;
  /** After Enter or Escape: where the focus goes on to. */
  onEnd?: () => void;
  /** Finds the field among others. */
  name?: string;
}): ReactNode {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const now = read(text);
  const error = text !== value && 'error' in now ? now.error : '';
  const warning = error === '' ? (warn?.(text) ?? '') : '';
  // What Enter has taken is not taken again when the field is left.
  const taken = useRef<string | null>(null);
  const take = (): void => {
    if (text === value || text === taken.current || !('value' in now)) return;
    taken.current = text;
    onTake(now.value);
  };
  return (
    <label className="entry">
      {shown !== '' && `${shown} `}
      <input
        className="line"
        style={{ width }}
        aria-label={label}
        name={name}
        value={text}
        placeholder={placeholder}
        aria-invalid={error !== ''}
        onChange={(e) => {
          taken.current = null;
          setText(e.target.value);
        }}
        onBlur={() => ('error' in now ? setText(value) : take())}
        onKeyDown={(e) => {
          const isWrong = text !== value && 'error' in now;
          if (e.key === 'Enter') take();
          else if (e.key === 'Escape') setText(value);
          else return;
          // Taking it may move the focus to a button, which Enter must not press as well.
          e.preventDefault();
          e.stopPropagation();
          // What is wrong is put right here, not left behind.
          if (e.key === 'Enter' && isWrong) return;
          onEnd?.();
        }}
      />
      {unit && <span className="soft"> {unit}</span>}
      {error !== '' && (
        <span className="fault error" role="alert">
          {' '}
          {error}
        </span>
      )}
      {warning !== '' && <span className="fault warning"> {warning}</span>}
    </label>
  );
}
