import './needs-list.css';
import { needsText, type Need, type Wish } from '@oquel/core';
import { useState, type ReactNode } from 'react';

const KIND: Record<Need['kind'], string> = {
  asset: 'new',
  placement: 'placed',
  channel: 'channel',
  event: 'event',
  action: 'action',
  property: 'property',
};

/** Whether what lines need is made with them, and how. */
export function Making({
  needs,
  isMaking,
  onMaking,
  onWish,
}: {
  needs: readonly Need[];
  isMaking: boolean;
  onMaking: (is: boolean) => void;
  onWish: (key: string, wish: Wish) => void;
}): ReactNode {
  if (needs.length === 0 && isMaking) return null;
  const decided = needs.filter((n) => !n.isOpen);
  return (
    <div className="making">
      <label>
        <input type="checkbox" checked={isMaking} onChange={(e) => onMaking(e.target.checked)} /> Create what
        is missing{isMaking && decided.length > 0 && `: ${needsText(decided)}`}
      </label>
      {isMaking && <NeedsList needs={needs} onWish={onWish} />}
    </div>
  );
}

/** What lines need that is not there: each can be changed before it is made, and what looks like a slip is asked about. */
function NeedsList({
  needs,
  onWish,
}: {
  needs: readonly Need[];
  onWish: (key: string, wish: Wish) => void;
}): ReactNode {
  return (
    <ul className="needs" aria-label="What will be created">
      {[...needs]
        .sort((a, b) => Number(b.isOpen) - Number(a.isOpen))
        .map((need) => (
          <li key={need.key} data-need={need.key} className={need.isOpen ? 'open' : ''}>
            <span className="soft">{KIND[need.kind]}</span>
            {need.isOpen ? (
              <Question need={need} onWish={onWish} />
            ) : need.kind === 'asset' ? (
              <span className="mono">{need.text}</span>
            ) : (
              <NeedLine need={need} onWish={onWish} />
            )}
            <span className="soft of">
              {need.of !== '' && `of ${need.of} · `}
              {need.lines.length === 1 ? '1 line' : `${need.lines.length} lines`}
            </span>
          </li>
        ))}
    </ul>
  );
}

function Question({ need, onWish }: { need: Need; onWish: (key: string, wish: Wish) => void }): ReactNode {
  return (
    <span className="row">
      <b className="mono">{need.name}</b> does not exist. Did you mean
      {need.near.map((name) => (
        <button
          key={name}
          type="button"
          className="tick mono"
          onClick={() => onWish(need.key, { use: name })}
        >
          {name}
        </button>
      ))}
      or
      <button type="button" className="tick" onClick={() => onWish(need.key, { make: true })}>
        new
      </button>
      ?
    </span>
  );
}

/** The line that makes it, which can be written otherwise. */
function NeedLine({ need, onWish }: { need: Need; onWish: (key: string, wish: Wish) => void }): ReactNode {
  const [text, setText] = useState<string | null>(null);
  const take = (): void => {
    if (text !== null && text !== need.text) onWish(need.key, { text });
    setText(null);
  };
  return (
    <span className="needline">
      <input
        className="line code"
        aria-label={`How ${need.name} is created`}
        aria-invalid={need.fault !== null}
        value={text ?? need.text}
        onChange={(e) => setText(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => {
          if (e.key === 'Enter') take();
          else if (e.key === 'Escape' && text !== null) {
            setText(null);
            e.stopPropagation();
          }
        }}
      />
      {need.fault !== null && <span className="fault error">{need.fault}</span>}
    </span>
  );
}
