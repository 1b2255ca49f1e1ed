import {
  afterCompletion,
  checkLine,
  completeWireLine,
  parseWireLine,
  type AssetIndex,
  type Completion,
  type LineBinding,
  type ProjectIndex,
} from '@oquel/core';
import {
  useEffect,
  useId,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type ClipboardEvent,
  type KeyboardEvent,
  type ReactNode,
} from 'react';

interface Props {
  index: ProjectIndex;
  owner: AssetIndex;
  /** What a line begins with when the field is entered by its key. */
  beginning: string;
  /** Returns whether it was taken. */
  onLine: (binding: LineBinding) => boolean;
  /** Several lines were pasted. */
  onLines: (text: string) => void;
}

/** A binding typed as one line: completed as it is typed, and what is wrong is told with its place. */
export function LineField({ index, owner, beginning, onLine, onLines }: Props): ReactNode {
  const [text, setText] = useState('');
  const [caret, setCaret] = useState(0);
  const [chosen, setChosen] = useState(-1);
  const [closed, setClosed] = useState(true);
  const [tried, setTried] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const listId = useId();
  useEffect(() => {
    const onKey = (e: globalThis.KeyboardEvent): void => {
      if (e.ctrlKey || e.metaKey || e.altKey || e.key.toLowerCase() !== 'w') return;
      if (e.target instanceof HTMLElement && e.target.closest('input, textarea, select, [role="dialog"]'))
        return;
      e.preventDefault();
      change(text === '' ? beginning : text);
      input.current?.focus();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });

  // Before the next key can come: a caret that is moved later would jump over what was typed meanwhile.
  const caretTo = useRef<number | null>(null);
  useLayoutEffect(() => {
    if (caretTo.current !== null) input.current?.setSelectionRange(caretTo.current, caretTo.current);
    caretTo.current = null;
  }, [text]);

  const completions = useMemo(
    () => (closed ? null : completeWireLine(index, owner, text.slice(0, caret))),
    [closed, index, owner, text, caret],
  );
  const options = (completions?.options ?? []).slice(0, 12);
  const parsed = useMemo(() => parseWireLine(text), [text]);
  const wrong = useMemo(
    () => ('binding' in parsed ? checkLine(index, owner, parsed.binding) : []),
    [parsed, index, owner],
  );

  const change = (next: string, at = next.length): void => {
    setText(next);
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
    if (onLine(parsed.binding)) change('');
    setClosed(true);
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    const open = options.length > 0;
    if (open && e.key === 'ArrowDown') setChosen((chosen + 1) % options.length);
    else if (open && e.key === 'ArrowUp') setChosen(chosen <= 0 ? options.length - 1 : chosen - 1);
    else if (open && e.key === 'Tab' && !e.shiftKey) take(options[Math.max(0, chosen)]);
    else if (open && e.key === 'Enter' && chosen >= 0) take(options[chosen]);
    else if (e.key === 'Enter') submit();
    else if (e.key === 'Escape') {
      if (open) setClosed(true);
      else input.current?.blur();
    } else return;
    e.preventDefault();
  };
  const onPaste = (e: ClipboardEvent): void => {
    const pasted = e.clipboardData.getData('text');
    if (!/\S\s*\n\s*\S/.test(pasted)) return;
    e.preventDefault();
    onLines(pasted);
  };

  return (
    <div className="linefield">
      <label htmlFor={`${listId}-line`}>
        Line <kbd>W</kbd>
      </label>
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
        spellCheck={false}
        placeholder="when mast-2.onGust do brake-1.engage(force = $speed)"
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
        <Said text={text} parsed={parsed} wrong={wrong} tried={tried} />
      </div>
    </div>
  );
}

function Said({
  text,
  parsed,
  wrong,
  tried,
}: {
  text: string;
  parsed: ReturnType<typeof parseWireLine>;
  wrong: readonly string[];
  tried: boolean;
}): ReactNode {
  if (text === '') return <span className="soft">Tab completes, Enter adds; many lines can be pasted</span>;
  if ('fault' in parsed) {
    const { at, message, expected } = parsed.fault;
    const told = tried || at < text.trimEnd().length;
    if (!told) return <span className="soft">Goes on with {expected}</span>;
    return (
      <span className="fault error">
        At character {at + 1}: {message}
      </span>
    );
  }
  if (wrong.length > 0)
    return <span className="fault warning">It would be at fault: {wrong.join('; ')}</span>;
  return <span className="good">Enter adds it</span>;
}
