import type { ReactNode } from 'react';
import { Link } from 'react-router';

/** What can be done with what is chosen. */
export function ThingActions({
  wire,
  onOpen,
  onDuplicate,
  onRotate,
  onLeave,
}: {
  wire: string | null;
  /** Goes to the prefab or widget of what is chosen. */
  onOpen: (() => void) | null;
  onDuplicate: (wired: boolean) => void;
  /** Absent where rotating would change nothing. */
  onRotate: (() => void) | null;
  onLeave: () => void;
}): ReactNode {
  return (
    <>
      {wire && <Link to={wire}>Wire it</Link>}
      {onOpen && (
        <button
          type="button"
          className="word"
          title="What its prefab or widget says; double click"
          onClick={onOpen}
        >
          Definition
        </button>
      )}
      <button type="button" className="word" title="D or Ctrl+D" onClick={() => onDuplicate(false)}>
        Duplicate
      </button>
      <button type="button" className="word" title="Shift+D" onClick={() => onDuplicate(true)}>
        Duplicate with bindings
      </button>
      {onRotate && (
        <button
          type="button"
          className="word"
          title="Rotate by 90 degrees about the middle; [ and ] rotate by 15 degrees"
          onClick={onRotate}
        >
          Rotate
        </button>
      )}
      <button type="button" className="word" title="Delete" onClick={onLeave}>
        Remove
      </button>
    </>
  );
}
