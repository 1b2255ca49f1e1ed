import { needsText, type AssetIndex, type BindingFrom, type Change, type ReadLines } from '@oquel/core';
import { useCallback, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { useSession, useSessionState } from '../../session/session-context.js';
import { later } from '../later.js';
import { countText } from '../../format.js';

const LinesPanel = later(async () => (await import('./lines-panel.js')).LinesPanel);

/** Lines from outside, looked at before they are taken in; a table is looked at in Exchange. */
export function usePastedLines(
  /** To which lines without a head belong; null for none. */
  owner: AssetIndex | null,
  {
    here = null,
    onAdded,
  }: { here?: BindingFrom | null; onAdded?: (changes: readonly Change[]) => void } = {},
): { open: (text: string) => void; panel: ReactNode } {
  const session = useSession();
  const { id, index } = useSessionState();
  const navigate = useNavigate();
  const [text, setText] = useState<string | null>(null);
  const open = useCallback(
    (pasted: string): void => {
      // What tells tables apart is loaded when something is pasted.
      void import('./is-table.js').then(({ isTable }) => {
        if (isTable(pasted)) return navigate(`/p/${id}/exchange`, { state: { pasted } });
        setText(pasted);
      });
    },
    [navigate, id],
  );
  const close = (): void => setText(null);
  const add = (lines: ReadLines): void => {
    if (!lines.changes) return;
    if (!session.edit({ label: labelOf(owner, lines), changes: lines.changes })) return;
    close();
    onAdded?.(lines.changes);
  };
  const panel = text !== null && (
    <LinesPanel index={index} owner={owner} text={text} here={here} onClose={close} onAdd={add} />
  );
  return { open, panel };
}

function labelOf(owner: AssetIndex | null, { count, declared, needs }: ReadLines): string {
  const said = [
    ...(count > 0 ? [countText(count, 'binding')] : []),
    ...(declared > 0 ? [countText(declared, 'declaration')] : []),
  ].join(' and ');
  const made = needs.length > 0 ? `, made ${needsText(needs)}` : '';
  return `${owner ? `${owner.decl.id}: ` : ''}added ${said} as lines${made}`.slice(0, 500);
}
