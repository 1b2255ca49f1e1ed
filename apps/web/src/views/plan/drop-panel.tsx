import type { AssetIndex, ProjectIndex } from '@oquel/core';
import { useMemo, type ReactNode } from 'react';
import { usePreview } from '../../session/use-preview.js';
import { dropping } from './stage-edits.js';
import { countText } from '../../format.js';

/** What would break if a scene, prefab or widget were taken out of the project, before it is. */
export function DropPanel({
  index,
  asset,
  onDrop,
  onKeep,
}: {
  index: ProjectIndex;
  asset: AssetIndex;
  onDrop: () => void;
  onKeep: () => void;
}): ReactNode {
  const changes = useMemo(() => dropping(asset).changes, [asset]);
  const found = usePreview(changes);
  const { id, kind } = asset.decl;
  const where = index.assets
    .map((a) => ({ id: a.decl.id, n: a.placements.filter((p) => p.asset === id).length }))
    .filter((a) => a.n > 0);
  return (
    <section
      className="removal"
      role="dialog"
      aria-label={`Remove ${id} from the project`}
      onKeyDown={(e) => e.key === 'Escape' && onKeep()}
    >
      <h2>
        Remove the {kind} {id} from the project
      </h2>
      <p>
        It holds {countText(asset.placements.length, 'placement')} and{' '}
        {countText(asset.bindings.length, 'binding')}.{' '}
        {where.length > 0 &&
          `It stands in ${where.map((w) => `${w.id} (${w.n})`).join(', ')}; those placements stay, and name nothing.`}
      </p>
      <div role="status">
        {!found && <span className="soft">Checking findings ...</span>}
        {found?.added.slice(0, 5).map((f) => (
          <div key={f.fingerprint} className={`fault ${f.severity}`}>
            new: {f.message}
          </div>
        ))}
        {found && found.added.length > 5 && <div>and {found.added.length - 5} new findings more</div>}
        {found && found.added.length === 0 && 'No new finding.'}
      </div>
      <div className="row">
        <button type="button" className="tick" aria-pressed="true" autoFocus onClick={onDrop}>
          Remove it
        </button>
        <button type="button" className="tick" onClick={onKeep}>
          Keep it
        </button>
      </div>
    </section>
  );
}
