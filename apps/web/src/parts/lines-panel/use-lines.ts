import { readLines, type ProjectIndex, type ReadLines, type Wishes } from '@oquel/core';
import { useEffect, useMemo, useState } from 'react';
import { useSession } from '../../session/session-context.js';

/** So many lines are read while somebody waits; more are read by the worker. */
const AT_ONCE = 1_000;
const MOST_LINES = 100_000;
const NONE: ReadLines = { lines: [], needs: [], changes: null, count: 0, declared: 0 };

/** What lines come to in a project. */
export function useLines(
  index: ProjectIndex,
  owner: string,
  text: string,
  { ticks, wishes, isMaking }: { ticks: ReadonlyMap<number, boolean>; wishes: Wishes; isMaking: boolean },
): { read: ReadLines; fault: string } {
  const session = useSession();
  const count = useMemo(() => text.split('\n').length, [text]);
  const atOnce = useMemo(
    () => (count <= AT_ONCE ? readLines(index, owner, text, { ticks, wishes, isMaking }) : null),
    [count, index, owner, text, ticks, wishes, isMaking],
  );
  const [later, setLater] = useState<ReadLines | null>(null);
  const [fault, setFault] = useState('');
  useEffect(() => {
    if (count <= AT_ONCE || count > MOST_LINES) return;
    let current = true;
    session.lines(owner, text, { ticks, wishes, isMaking }).then(
      (read) => {
        if (!current) return;
        setLater(read);
        setFault('');
      },
      (error: unknown) => current && setFault(error instanceof Error ? error.message : String(error)),
    );
    return () => {
      current = false;
    };
  }, [session, count, index, owner, text, ticks, wishes, isMaking]);
  if (atOnce) return { read: atOnce, fault: '' };
  if (count > MOST_LINES) {
    return { read: NONE, fault: `${count} lines are more than can be read at once: at most ${MOST_LINES}` };
  }
  return { read: later ?? NONE, fault: fault || (later ? '' : `Reading ${count} lines ...`) };
}
