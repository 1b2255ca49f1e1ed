import { mutingAll, type BindingRef, type ProjectIndex, type Ripple } from '@oquel/core';
import { useMemo, type ReactNode } from 'react';
import { usePreview } from '../../session/use-preview.js';
import { countText } from '../../format.js';

/** What a trial does: what falls away, and how the findings change; then it is kept, or dropped. */
export function TrialBar({
  index,
  ripple,
  muted,
  onKeep,
  onDrop,
}: {
  index: ProjectIndex;
  ripple: Ripple | null;
  muted: readonly BindingRef[];
  onKeep: () => void;
  onDrop: () => void;
}): ReactNode {
  const changes = useMemo(() => mutingAll(index, muted), [index, muted]);
  const found = usePreview(changes);
  const gone =
    ripple?.entries.filter((e) => e.gone && e.kind === 'action').reduce((n, e) => n + e.count, 0) ?? 0;
  return (
    <div className="trial" role="status" aria-label="Trial">
      <b>Trial: {countText(muted.length, 'binding')} off</b>
      <span>
        {gone === 0
          ? 'everything is still reached'
          : `${countText(gone, 'action')} fall${gone === 1 ? 's' : ''} away`}
      </span>
      <span className="trialfindings">
        {!found && <span className="soft">checking findings ...</span>}
        {found && found.added.length === 0 && found.gone.length === 0 && 'no finding changes'}
        {found && found.gone.length > 0 && (
          <span title={found.gone.map((f) => f.message).join('\n')}>
            {countText(found.gone.length, 'finding')} gone
          </span>
        )}
        {found && found.added.length > 0 && (
          <span
            className={`fault ${found.added[0].severity}`}
            title={found.added.map((f) => f.message).join('\n')}
          >
            {countText(found.added.length, 'new finding')}: {found.added[0].message}
          </span>
        )}
      </span>
      <span className="grow" />
      <button type="button" className="tick" aria-pressed="true" onClick={onKeep}>
        Keep it
      </button>
      <button type="button" className="tick" onClick={onDrop}>
        Drop it
      </button>
    </div>
  );
}
