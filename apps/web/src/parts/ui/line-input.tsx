import './line-input.css';
import { afterCompletion, type Completion, type Completions } from '@oquel/core';
import {
  useEffect,
  useId,
  useImperativeHandle,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type ClipboardEvent,
  type KeyboardEvent,
  type ReactNode,
  type Ref,
} from 'react';

/** What a line comes to: something, or the place where it stops making sense. */
export type ReadLine<T> =
  { value: T } | { fault: { at: number; found: string; message: string; expected: string } };

export interface LineInputHandle {
  /** Puts the focus into the line, with another text in it if one is given. */
  enter: (text?: string) => void;
}

interface Props<T> {
  ref?: Ref<LineInputHandle>;
  label: ReactNode;
  placeholder: string;
  /** What is said about an empty line. */
  hint: string;
  /** The text that it begins with; it is taken anew where this changes. */
  text?: string;
  autoFocus?: boolean;
  complete: (beginning: string) => Completions;
  read: (text: string) => ReadLine<T>;
  /** What would be wrong about it, though it can be read. */
  warn?: (value: T) => readonly string[];
  /** What Enter does, in words. */
  does: (value: T) => string;
  /** Returns whether it was taken; the line is empty then. */
  onTake: (value: T) => boolean;
  /** Several lines were pasted. */
  onLines?: (text: string) => void;
  /** Escape, where there is nothing left to close. */
  onLeave?: () => void;
  /** Every text that is typed, for a line that must outlive its view. */
  onText?: (text: string) => void;
}

/** Completions that are shown; more is typed. */
const MOST = 30;

/** A line of a notation: completed as it is typed, and what is wrong is reported with its place. */
export function LineInput<T>(props: Props<T>): ReactNode {
  const { label, placeholder, hint, complete, read, warn, does, onTake, onLines, onLeave, onText } = props;
  const [text, setText] = useState(props.text ?? '');
  const [caret, setCaret] = useState(text.length);
  const [chosen, setChosen] = useState(-1);
  // Whoever has just opened an empty line is shown what it can begin with.
  const [closed, setClosed] = useState(props.autoFocus !== true || text !== '');
  const [tried, setTried] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const listId = useId();
  useImperativeHandle(props.ref, () => ({
    enter: (next) => {
      if (next !== undefined) change(next);
      input.current?.focus();
    },
  }));
  useEffect(() => {
    if (props.text !== undefined) setText(props.text);
  }, [props.text]);

  // Before the next key can come: a caret that is moved later would jump over what was typed meanwhile.
  const caretTo = useRef<number | null>(null);
  useLayoutEffect(() => {
    if (caretTo.current !== null) input.current?.setSelectionRange(caretTo.current, caretTo.current);
    caretTo.current = null;
  }, [text]);

  const completions = useMemo(
    () => (closed ? null : complete(text.slice(0, caret))),
    [closed, complete, text, caret],
  );
  const options = (completions?.options ?? []).slice(0, MOST);
  const parsed = useMemo(() => read(text), [text, read]);
  const wrong = useMemo(() => ('value' in parsed ? (warn?.(parsed.value) ?? []) : []), [parsed, warn]);

  useEffect(() => {
    if (chosen >= 0) document.getElementById(`${listId}-${chosen}`)?.scrollIntoView({ block: 'nearest' });
  }, [chosen, listId]);

  const change = (next: string, at = next.length): void => {
    setText(next);
    onText?.(next);
    setCaret(at);
    setChosen(-1);
    setClosed(false);
    setTried(false);
  };
  const take = (option: Completion): void => {
    const head = text.slice(0, completions!.at) + option.text + afterCompletion(option);
    change(head + text.slice(caret), head.length);
    caretTo.current = head.length;
  };
  const submit = (): void => {
    setTried(true);
    setClosed(true);
    if ('fault' in parsed) {
      input.current?.setSelectionRange(parsed.fault.at, parsed.fault.at + parsed.fault.found.length);
      return;
    }
    if (onTake(parsed.value)) change('');
    setClosed(true);
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    const open = options.length > 0;
    if (open && e.key === 'ArrowDown') setChosen((chosen + 1) % options.length);
    else if (open && e.key === 'ArrowUp') setChosen(chosen <= 0 ? options.length - 1 : chosen - 1);
    // A line that could be taken as it is goes on only where that was chosen.
    else if (open && e.key === 'Tab' && !e.shiftKey && (chosen >= 0 || !options[0].isMore))
      take(options[Math.max(0, chosen)]);
    else if (open && e.key === 'Enter' && chosen >= 0) take(options[chosen]);
    // A line that is not finished is not left by accident.
    else if (e.key === 'Tab' && !e.shiftKey && text !== '' && 'fault' in parsed) setTried(true);
    else if (e.key === 'Enter') submit();
    else if (e.key === 'Escape') {
      if (open) setClosed(true);
      else if (onLeave) onLeave();
      else input.current?.blur();
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const onPaste = (e: ClipboardEvent): void => {
    const pasted = e.clipboardData.getData('text');
    if (!onLines || !/\S\s*\n\s*\S/.test(pasted)) return;
    e.preventDefault();
    onLines(pasted);
  };

  return (
    <div className="linefield">
      <label htmlFor={`${listId}-line`}>{label}</label>
      <input
        id={`${listId}-line`}
        ref={input}
        className="line mono"
        role="combobox"
        aria-expanded={options.length > 0}
        aria-controls={listId}
        aria-activedescendant={chosen >= 0 ? `${listId}-${chosen}` : undefined}
        aria-autocomplete="list"
        aria-invalid={tried && 'fault' in parsed}
        aria-describedby={`${listId}-said`}
        autoComplete="off"
        autoFocus={props.autoFocus}
        spellCheck={false}
        placeholder={placeholder}
        value={text}
        onChange={(e) => change(e.target.value, e.target.selectionStart ?? e.target.value.length)}
        onSelect={(e) => setCaret(e.currentTarget.selectionStart ?? text.length)}
        onBlur={() => setClosed(true)}
        onKeyDown={onKeyDown}
        onPaste={onPaste}
      />
      {options.length > 0 && (
        <ul id={listId} role="listbox" aria-label="What the line can go on with">
          {options.map((o, i) => (
            <li
              key={o.text}
              id={`${listId}-${i}`}
              role="option"
              aria-selected={i === chosen}
              // The field keeps the focus.
              onPointerDown={(e) => {
                e.preventDefault();
                take(o);
              }}
            >
              <span className="mono">{o.text}</span>
              <span className="soft">{o.about}</span>
            </li>
          ))}
        </ul>
      )}
      <div id={`${listId}-said`} className="said" role="status">
        {text === '' ? (
          <span className="soft">{hint}</span>
        ) : 'fault' in parsed ? (
          <FaultText fault={parsed.fault} isShown={tried || parsed.fault.at < text.trimEnd().length} />
        ) : wrong.length > 0 ? (
          <span className="fault warning">This would be reported: {wrong.join('; ')}</span>
        ) : (
          <button
            type="button"
            className="good"
            tabIndex={-1}
            // The field keeps the focus.
            onPointerDown={(e) => e.preventDefault()}
            onClick={submit}
          >
            {does(parsed.value)}
          </button>
        )}
      </div>
    </div>
  );
}

function FaultText({
  fault: { at, message, expected },
  isShown,
}: {
  fault: { at: number; message: string; expected: string };
  isShown: boolean;
}): ReactNode {
  if (!isShown) return <span className="soft">Next: {expected}</span>;
  return (
    <span className="fault error">
      At character {at + 1}: {message}
    </span>
  );
}
