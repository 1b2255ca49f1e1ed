import type { DifferenceHow } from '@oquel/core';
import { useMemo, type ReactNode } from 'react';
import type { Build } from '../../api/client.js';
import { changeRows, ComparisonList, findingRows } from '../../parts/comparison/comparison-list.js';
import { countsText, HOW_WORD, HOWS, OFS } from '../../parts/comparison/words.js';
import { TabRow } from '../../parts/ui/tab-row.js';
import { WorkProgress } from '../../parts/ui/work-progress.js';
import { useQuery } from '../../parts/use-query.js';
import { useSessionState } from '../../session/session-context.js';
import { useComparison } from './use-comparison.js';
import { dayText } from '../../format.js';

/** What has changed from a build to now, or to another build, as sentences scene by scene. */
export function Changes({ build, builds }: { build: Build; builds: readonly Build[] }): ReactNode {
  const { id } = useSessionState();
  const { params, go } = useQuery();
  const other = builds.find((b) => b.id === params.get('with'));
  // The older one is what it is compared from.
  const [from, to] = other && other.at < build.at ? [other, build] : [build, other ?? null];
  const { data, error, work, again } = useComparison(from, to);
  const of = params.get('of') ?? '';
  const how = (params.get('how') ?? '') as DifferenceHow | '';
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
        <TabRow
          label="Shown"
          tabs={[
            { value: 'changes', text: `Changes ${data ? changed : ''}` },
            {
              value: 'findings',
              text: data
                ? `Findings ${data.findings.added.length} new, ${data.findings.gone.length} gone`
                : 'Findings',
            },
          ]}
          value={findings ? 'findings' : 'changes'}
          onChoose={(tab) => go({ show: tab === 'findings' ? tab : '' })}
        />
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
            <option value="">all changes</option>
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
          The builds cannot be compared: {error.message}
        </p>
      )}
      {!data && !error && !again && <WorkProgress what="Comparing" step={work.step} onCancel={work.cancel} />}
      {again && (
        <p role="status">
          The comparison was cancelled.{' '}
          <button type="button" className="tick" onClick={again}>
            Compare
          </button>
        </p>
      )}
      {data && rows.length === 0 && (
        <p className="soft">
          {findings
            ? 'The findings are the same.'
            : changed === 0
              ? 'No differences.'
              : 'No differences of that kind.'}
        </p>
      )}
      <ComparisonList
        key={`${from.id}/${to?.id ?? ''}/${findings}`}
        rows={rows}
        here={to === null ? `/p/${id}` : null}
      />
    </section>
  );
}
