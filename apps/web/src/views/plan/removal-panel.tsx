import { bindingsNaming, printFrom, type AssetIndex, type ProjectIndex } from '@oquel/core';
import { Fragment, useMemo, type ReactNode } from 'react';
import { SaidSentence } from '../../parts/ui/sentence.js';
import { SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { usePreview } from '../../session/use-preview.js';
import { removing, some } from './stage-edits.js';
import { countText } from '../../format.js';

interface Props {
  index: ProjectIndex;
  owner: AssetIndex;
  ids: readonly string[];
  onRemove: (wired: boolean) => void;
  onClose: () => void;
}
const MOST = 100;

/** What would break if things were taken off the plan, before they are. */
export function RemovalPanel({ index, owner, ids, onRemove, onClose }: Props): ReactNode {
  const naming = useMemo(() => bindingsNaming(index, owner, new Set(ids)), [index, owner, ids]);
  const counts = useMemo(() => {
    const by = new Map<AssetIndex, number>();
    for (const n of naming) by.set(n.owner, (by.get(n.owner) ?? 0) + 1);
    return by;
  }, [naming]);
  const isElsewhere = [...counts.keys()].some((of) => of !== owner);
  const alone = useMemo(() => removing(index, owner, ids, false).changes, [index, owner, ids]);
  const change = usePreview(alone);
  return (
    <section
      className="removal"
      role="dialog"
      aria-label={`Remove ${some(ids)} from the plan`}
      onKeyDown={(e) => e.key === 'Escape' && onClose()}
    >
      <h2>
        Remove {some(ids)} from the plan: {countText(naming.length, 'binding')}{' '}
        {naming.length === 1 ? 'names' : 'name'} {ids.length === 1 ? 'it' : 'them'}
      </h2>
      {/* It scrolls where there are many. */}
      <ul className="sentences" tabIndex={0} aria-label="What names it">
        {naming.slice(0, MOST).map(({ owner: of, binding }, i) => (
          <Fragment key={`${of.decl.id}/${binding.id}`}>
            {/* By scene, prefab or widget, where it is more than this one. */}
            {naming[i - 1]?.owner !== of && isElsewhere && (
              <li className="ownerhead">
                <b>{of.decl.id}</b> <span className="soft">{countText(counts.get(of) ?? 0, 'binding')}</span>
              </li>
            )}
            <li className="sentence">
              <span className="nth" />
              <span className="said">
                when <span className="who">{printFrom(binding)}</span> do <SaidSentence binding={binding} />
              </span>
            </li>
          </Fragment>
        ))}
        {naming.length > MOST && <li className="soft">and {naming.length - MOST} more</li>}
      </ul>
      <p role="status">
        {change === null ? (
          <span className="soft">Checking findings ...</span>
        ) : (
          <>
            Alone: {change.added.length === 0 && 'no new finding'}
            {(['error', 'warning', 'info'] as const).map((s) => {
              const n = change.added.filter((f) => f.severity === s).length;
              return (
                n > 0 && (
                  <span key={s} className={`fault ${s}`}>
                    <SeverityMark severity={s} /> {countText(n, `new ${SEVERITY_WORD[s]}`)}{' '}
                  </span>
                )
              );
            })}
          </>
        )}
      </p>
      <div className="row">
        <button type="button" className="tick" aria-pressed="true" autoFocus onClick={() => onRemove(true)}>
          Remove with {naming.length === 1 ? '1 binding' : `${naming.length} bindings`}
        </button>
        <button type="button" className="tick" onClick={() => onRemove(false)}>
          Remove alone
        </button>
        <button type="button" className="tick" onClick={onClose}>
          Cancel
        </button>
      </div>
    </section>
  );
}
