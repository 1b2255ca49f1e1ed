import type { BindingFrom, BindingTo, SelectedNow, SelectionTarget } from '@oquel/core';
import { useEffect, useState } from 'react';
import { useSession, useSessionState } from './session-context.js';

interface Selecting {
  id: string;
  from: BindingFrom;
  to: SelectionTarget;
}
const NONE: ReadonlyMap<string, SelectedNow> = new Map();

/** What `every …` of these bindings of an asset takes now, by id; it follows every edit. */
export function useSelected(
  owner: string,
  bindings: readonly { id: string; from: BindingFrom; to: BindingTo }[],
): ReadonlyMap<string, SelectedNow> {
  const session = useSession();
  const { project } = useSessionState();
  const [known, setKnown] = useState(NONE);
  const asked = JSON.stringify(
    bindings.flatMap(({ id, from, to }): Selecting[] => ('every' in to ? [{ id, from, to }] : [])),
  );
  useEffect(() => {
    const asks = JSON.parse(asked) as Selecting[];
    if (asks.length === 0) return setKnown(NONE);
    let current = true;
    session.selected(owner, asks).then(
      (answers) => {
        if (current) setKnown(new Map(answers.flatMap((a, i) => (a ? [[asks[i].id, a] as const] : []))));
      },
      // Without an answer nothing is said about the selection.
      () => current && setKnown(NONE),
    );
    return () => {
      current = false;
    };
  }, [session, owner, asked, project]);
  return known;
}
