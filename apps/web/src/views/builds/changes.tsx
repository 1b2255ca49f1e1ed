import { useVirtualizer } from '@tanstack/react-virtual';
import type { DifferenceLine, DifferenceOf, Finding } from '@oquel/core';
import { useMemo, useRef, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useSessionState } from '../../session/session-context.js';
import type { Build } from '../../api/client.js';
import { countText, SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { useQuery } from '../../parts/use-query.js';
import type { Comparison } from '../../workers/auditor.js';
import { useComparison } from './use-comparison.js';
import { countsText, dayText, HOW_WORD, HOWS } from './words.js';

const OFS: DifferenceOf[] = ['binding', 'placement', 'declaration'];
type Row = { head: string; n: number } | { line: DifferenceLine } | { finding: Finding; how: 'new' | 'gone' };

/** What has changed from a build to now, or to another build, as sentences scene by scene. */
export function Changes({ build, builds }: { build: Build; builds: readonly Build[] }): ReactNode {
  const { params, go } = useQuery();
  const other = builds.find((b) => b.id === params.get('with'));
  // The older one is what it is compared from.
  const [from, to] = other && other.at < build.at ? [other, build] : [build, other ?? null];
  const { data, error } = useComparison(from, to);
  const [of, how] = [params.get('of') ?? '', params.get('how') ?? ''];
  const findings = params.get('show') === 'findings';
  const rows = useMemo(
    () => (data ? (findings ? findingRows(data) : changeRows(data, of, how)) : []),
    [data, findings, of, how],
  );
  const changed = data ? data.difference.groups.reduce((n, g) => n + g.lines.length, 0) : 0;
  return (
    <section className="changes" aria-label="What has changed">
      <div className="row">
        <h3>
          From {from.name} to {to?.name ?? 'now'}
        </h3>
        <label>
          compared with{' '}
          <select
            className="line"
            aria-label="Compared with"
            value={other?.id ?? ''}
            onChange={(e) => go({ with: e.target.value })}
          >
            <option value="">now</option>
            {builds
              .filter((b) => b.id !== build.id)
              .map((b) => (
                <option key={b.id} value={b.id}>
                  {b.name}, {dayText(b.at)}
                </option>
              ))}
          </select>
        </label>
        <span className="grow" />
        <div role="tablist" aria-label="Shown" className="row">
          <button
            type="button"
            role="tab"
            className="tick"
            aria-selected={!findings}
            onClick={() => go({ show: '' })}
          >
            Changes {data ? changed : ''}
          </button>
          <button
            type="button"
            role="tab"
            className="tick"
            aria-selected={findings}
            onClick={() => go({ show: 'findings' })}
          >
            Findings {data && `${data.findings.added.length} new, ${data.findings.gone.length} gone`}
          </button>
        </div>
      </div>
      {data && !findings && (
        <div className="row" role="group" aria-label="Only">
          {OFS.map((o) => (
            <button
              key={o}
              type="button"
              className="tick"
              aria-pressed={of === o}
              disabled={countsText(data.difference.counts[o]) === ''}
              onClick={() => go({ of: of === o ? '' : o })}
            >
              {o}s: {countsText(data.difference.counts[o]) || 'the same'}
            </button>
          ))}
          <select
            className="line"
            aria-label="Only those"
            value={how}
            onChange={(e) => go({ how: e.target.value })}
          >
            <option value="">all ways</option>
            {HOWS.map((h) => (
              <option key={h} value={h}>
                {HOW_WORD[h]}
              </option>
            ))}
          </select>
        </div>
      )}
      {error && (
        <p role="alert" className="fault error">
          They cannot be compared: {error.message}
        </p>
      )}
      {!data && !error && <p className="soft">Comparing ...</p>}
      {data && rows.length === 0 && (
        <p className="soft">
          {findings
            ? 'The findings are the same.'
            : changed === 0
              ? 'Nothing differs.'
              : 'Nothing of that kind differs.'}
        </p>
      )}
      <Rows key={`${from.id}/${to?.id ?? ''}/${findings}`} rows={rows} toNow={to === null} />
    </section>
  );
}

function changeRows({ difference }: Comparison, of: string, how: string): Row[] {
  return difference.groups.flatMap((g): Row[] => {
    const lines = g.lines.filter((l) => (of === '' || l.of === of) && (how === '' || l.how === how));
    if (lines.length === 0) return [];
    const head = g.kind === 'project' ? 'the project' : `${g.kind} ${g.asset}`;
    return [{ head, n: lines.length }, ...lines.map((line) => ({ line }))];
  });
}
function findingRows({ findings: { added, gone } }: Comparison): Row[] {
  const part = (how: 'new' | 'gone', list: readonly Finding[]): Row[] =>
    list.length === 0
      ? []
      : [{ head: how, n: list.length }, ...list.map((finding): Row => ({ finding, how }))];
  return [...part('new', added), ...part('gone', gone)];
}

function Rows({ rows, toNow }: { rows: readonly Row[]; toNow: boolean }): ReactNode {
  const box = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: (i) =>
      'head' in rows[i] ? 34 : 'line' in rows[i] && rows[i].line.was !== undefined ? 50 : 28,
    overscan: 16,
  });
  return (
    <div className="scroll" ref={box} tabIndex={0} role="group" aria-label="Lines of the comparison">
      <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {virtual.getVirtualItems().map((item) => (
          <div
            key={item.key}
            ref={virtual.measureElement}
            data-index={item.index}
            style={{ position: 'absolute', top: item.start, left: 0, right: 0 }}
          >
            <RowText row={rows[item.index]} toNow={toNow} />
          </div>
        ))}
      </div>
    </div>
  );
}

function RowText({ row, toNow }: { row: Row; toNow: boolean }): ReactNode {
  const { id } = useSessionState();
  if ('head' in row) {
    return (
      <div className="rulehead">
        <span className="n">{row.n}</span>
        <b>{row.head}</b>
      </div>
    );
  }
  if ('finding' in row) {
    return (
      <div className="changeline">
        <span className={`how ${row.how === 'new' ? 'worse' : 'better'}`}>{row.how}</span>
        <span>
          <SeverityMark severity={row.finding.severity} label={SEVERITY_WORD[row.finding.severity]} />{' '}
          {row.how === 'new' && toNow ? (
            <Link to={`/p/${id}/audit?finding=${row.finding.fingerprint}`}>{row.finding.message}</Link>
          ) : (
            row.finding.message
          )}
        </span>
      </div>
    );
  }
  const { how, text, was, place, carried, of } = row.line;
  return (
    <div className="changeline" data-how={how} data-of={of}>
      <span className={`how ${how}`}>{HOW_WORD[how]}</span>
      <span>
        {text}
        {place && (
          <span className="soft">
            {' '}
            · from place {place[0]} to {place[1]}
          </span>
        )}
        {carried !== undefined && carried > 0 && (
          <span className="soft"> · {countText(carried, 'binding')} carried along</span>
        )}
        {was !== undefined && <span className="was">was: {was}</span>}
      </span>
    </div>
  );
}
