import { recordText, secondsText, type Binding, type ProjectIndex, type TraceRecord } from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { bindingPlace } from '../../parts/places.js';
import { WholeSentence } from '../../parts/ui/sentence.js';
import { useSession } from '../../session/session-context.js';

/** The record at the cursor: its cause, its binding, which can be changed here, and its place on the plan. */
export function RecordPanel({
  index,
  base,
  record,
  cause,
  onCursor,
  onPlan,
}: {
  index: ProjectIndex;
  base: string;
  record: TraceRecord;
  cause: TraceRecord | undefined;
  onCursor: (n: number) => void;
  onPlan: (address: string) => void;
}): ReactNode {
  const session = useSession();
  const through = bindingOf(index, record);
  const at = 'at' in record && !record.at.startsWith('every ') ? record.at : null;
  const change = (next: Binding, label: string): void => {
    if (!through) return;
    const { asset } = through;
    session.edit({
      label,
      changes: [{ op: 'replace', list: 'bindings', asset, id: next.id, item: next }],
    });
  };
  const place = through && bindingPlace(index, base, through.asset, through.binding.id);
  return (
    <section className="record" aria-label="At the cursor">
      <p>
        <b>{secondsText(record.t)}</b> {recordText(record)}
      </p>
      <p className="row">
        {cause ? (
          <button type="button" className="word" onClick={() => onCursor(cause.n)} title={recordText(cause)}>
            Go to its cause
          </button>
        ) : (
          <span className="soft">
            {record.step === undefined ? 'Nothing before it' : `By step ${record.step + 1}`}
          </span>
        )}
        {at !== null && (
          <button type="button" className="word" onClick={() => onPlan(at)}>
            Show on the plan
          </button>
        )}
        {place && (
          <Link className="word" to={place.href}>
            Open in Wire
          </Link>
        )}
      </p>
      {through && (
        <div className="bindinghere">
          <span className={through.binding.enabled === false ? 'muted' : ''}>
            <WholeSentence binding={through.binding} />
          </span>
          <span className="row">
            <button
              type="button"
              className="tick"
              aria-pressed={through.binding.enabled === false}
              onClick={() => {
                const { enabled, ...rest } = through.binding;
                if (enabled === false) change(rest, `unmuted ${rest.id}`);
                else change({ ...rest, enabled: false }, `muted ${rest.id}`);
              }}
            >
              muted
            </button>
            <button
              type="button"
              className="tick"
              aria-pressed={through.binding.limit === 1}
              onClick={() => {
                const { limit, ...rest } = through.binding;
                if (limit === 1) change(rest, `${rest.id} no longer once`);
                else change({ ...rest, limit: 1 }, `${rest.id} once`);
              }}
            >
              once
            </button>
            <span className="soft">of {through.asset}; what follows is run again at once</span>
          </span>
        </div>
      )}
    </section>
  );
}

/** The authored binding that a record went through. */
function bindingOf(index: ProjectIndex, r: TraceRecord): { asset: string; binding: Binding } | null {
  if (!('owner' in r) || r.owner === undefined || r.binding === undefined) return null;
  const owner = assetAt(index, r.owner);
  const at = owner?.bindingAt.get(r.binding);
  return owner && at !== undefined ? { asset: owner.decl.id, binding: owner.bindings[at] } : null;
}
/** The asset at an address; a segment `~X#2` names its asset itself. */
function assetAt(index: ProjectIndex, address: string): ProjectIndex['assets'][number] | undefined {
  const [scene, path] = address.split(':', 2);
  let asset = index.assets[index.assetAt.get(scene) ?? -1] as ProjectIndex['assets'][number] | undefined;
  if (path === '.') return asset;
  for (const segment of path.split('/')) {
    const next = segment.startsWith('~')
      ? index.assetAt.get(segment.slice(1).replace(/#\d+$/, ''))
      : asset?.placed[asset.placementAt.get(segment) ?? -1];
    asset = next === undefined ? undefined : index.assets[next];
  }
  return asset;
}
