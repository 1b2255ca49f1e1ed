import './incoming.css';
import { useMemo, useState, type ReactNode } from 'react';
import { RequestCancelled } from '../../api/problem.js';
import type { Comparison } from '../../workers/auditor-answers.js';
import type { Incoming, Unfit } from '../../workers/incoming.js';
import { changeRows, ComparisonList, findingRows } from '../comparison/comparison-list.js';
import { countsText, OFS } from '../comparison/words.js';
import { SeverityMark, SEVERITY_WORD } from '../ui/severity-mark.js';
import { TabRow } from '../ui/tab-row.js';
import { countText } from '../../format.js';

const MOST_UNKNOWN = 8;

/** What a document holds, and what it would change, before anything of it is stored. */
export function IncomingReport({
  file,
  incoming: { project, unknown, repeated, audit },
  comparison,
  children,
}: {
  file: string;
  incoming: Incoming;
  comparison: Comparison | null;
  /** What can be done with it. */
  children: ReactNode;
}): ReactNode {
  const [shown, setShown] = useState<'changes' | 'findings'>('changes');
  const rows = useMemo(
    () =>
      comparison ? (shown === 'changes' ? changeRows(comparison, '', '') : findingRows(comparison)) : [],
    [comparison, shown],
  );
  const kinds = (['scene', 'prefab', 'widget'] as const).map((kind) =>
    countText(project.assets.filter((a) => a.kind === kind).length, kind),
  );
  const count = (list: 'placements' | 'bindings'): number =>
    project.assets.reduce((n, a) => n + (a[list]?.length ?? 0), 0);
  return (
    <section className="incoming" aria-label={`Report on ${file}`}>
      <h2>
        {project.name} <span className="soft">from {file}; nothing is stored yet</span>
      </h2>
      <p>
        {kinds.join(', ')}, {countText(count('placements'), 'placement')},{' '}
        {countText(count('bindings'), 'binding')}.{' '}
        <b className={`fault ${audit.gate === 'stop' ? 'error' : ''}`}>
          {audit.gate === 'stop' ? 'The gate would stop it' : 'The gate would let it pass'}:
        </b>{' '}
        {(['error', 'warning', 'info'] as const).map((s) => (
          <span key={s} className="counted">
            <SeverityMark severity={s} /> {countText(audit.summary[s], SEVERITY_WORD[s])}
          </span>
        ))}
      </p>
      {repeated.length > 0 && (
        <p className="soft">
          {countText(repeated.length, 'property', 'properties')} found more than once; the last value is used:{' '}
          <span className="mono">{repeated.slice(0, MOST_UNKNOWN).join(', ')}</span>
          {repeated.length > MOST_UNKNOWN && ` and ${repeated.length - MOST_UNKNOWN} more`}
        </p>
      )}
      {unknown.length > 0 && (
        <p className="fault warning">
          {countText(unknown.length, 'property', 'properties')} that the format does not know; they are kept:{' '}
          <span className="mono">{unknown.slice(0, MOST_UNKNOWN).join(', ')}</span>
          {unknown.length > MOST_UNKNOWN && ` and ${unknown.length - MOST_UNKNOWN} more`}
        </p>
      )}
      <div className="row">{children}</div>
      {comparison && (
        <>
          <TabRow
            label="Shown"
            tabs={[
              { value: 'changes', text: `Compared with this project: ${changesText(comparison)}` },
              {
                value: 'findings',
                text: `Findings: ${comparison.findings.added.length} new, ${comparison.findings.gone.length} gone`,
              },
            ]}
            value={shown}
            onChoose={setShown}
          />
          <ComparisonList key={shown} rows={rows} here={null} />
        </>
      )}
    </section>
  );
}

function changesText({ difference: { counts } }: Comparison): string {
  const parts = OFS.flatMap((of) =>
    countsText(counts[of]) === '' ? [] : [`${of}s ${countsText(counts[of])}`],
  );
  return parts.length === 0 ? 'nothing differs' : parts.join('; ');
}

/** Why storing failed, as it is shown: cancelled, it may have been done all the same. */
export function storingFailed(error: unknown): Unfit {
  const message = error instanceof Error ? error.message : String(error);
  return error instanceof RequestCancelled
    ? { message, problems: [], mayBeStored: true }
    : { message, problems: [] };
}

/** Why a file does not come in: every place where it is broken. */
export function UnfitReport({ file, unfit }: { file: string; unfit: Unfit }): ReactNode {
  return (
    <div className="notice" role="alert">
      <b>
        {unfit.mayBeStored
          ? `Storing ${file} was cancelled. If the server had already finished, it is in the list of projects.`
          : `${file} was not imported; nothing is stored.`}
      </b>
      {unfit.problems.length === 0 ? (
        <div>{unfit.message}</div>
      ) : (
        <ul className="problemlist">
          {unfit.problems.map((p, i) => (
            <li key={i}>
              {p.pointer !== '' && <span className="mono">{p.pointer}: </span>}
              expected {p.expected}, found {p.found}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
