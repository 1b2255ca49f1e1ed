import { thresholds, type Bucket, type Figures, type Finding } from '@oquel/core';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { useQuery as useServer } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { Bar, BarChart, Cell, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { listBuilds } from '../../api/client.js';
import { cssColour } from '../../parts/picture/css-colour.js';
import { PictureMenu } from '../../parts/picture/picture-menu.js';
import { figuresPicture } from './figures-picture.js';
import { Trend } from '../../parts/trend/trend.js';
import { rippleHref } from '../../parts/ripple-href.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { assetOf } from './grouping.js';
import { countText } from '../../format.js';

/** Distributions and hot spots as pictures; each bar opens what it counts. */
export function FiguresPanel({ onFilter }: { onFilter: (part: Record<string, string>) => void }): ReactNode {
  const session = useSession();
  const { id, project, audit, buildsChanged } = useSessionState();
  const navigate = useNavigate();
  const { data: builds } = useServer({
    queryKey: ['builds', id, buildsChanged],
    queryFn: () => listBuilds(id),
    retry: false,
  });
  const [figures, setFigures] = useState<Figures | null>(null);
  const [opened, setOpened] = useState<{ what: string; bucket: Bucket } | null>(null);
  useEffect(() => {
    let current = true;
    session.figures().then(
      (f) => current && setFigures(f),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [session, project]);
  const limits = thresholds(project.policy);
  const findings = useMemo(() => audit?.findings.filter((f) => !f.waived) ?? [], [audit]);
  const byRule = useMemo(() => counted(findings, (f) => f.rule), [findings]);
  const byAsset = useMemo(() => counted(findings, assetOf), [findings]);
  if (!figures || !audit) return <p className="soft none">Counting ...</p>;
  const { metrics } = audit;
  return (
    <section className="figures" aria-label="Figures">
      <h1 className="unseen">Figures of the audit</h1>
      <p className="metrics">
        {[
          [metrics.expandedBindings, 'bindings over all instances'],
          [metrics.instances, 'instances'],
          [metrics.longestChain, 'hops in the longest chain'],
          [metrics.widestFanOut, 'actions at the widest fan-out'],
          [metrics.cycles, metrics.cycles === 1 ? 'cycle' : 'cycles'],
        ].map(([n, what]) => (
          <span key={what}>
            <b>{n}</b> {what}
          </span>
        ))}
      </p>
      <PictureMenu
        title="Figures of the audit"
        drawing={() =>
          figuresPicture(
            { metrics, figures, limits, byRule: totals(byRule), byAsset: totals(byAsset) },
            cssColour,
          )
        }
      />
      <Histogram
        title="Events by the hops of their longest chain"
        buckets={figures.chains}
        limit={limits.maxChain}
        onOpen={(bucket) =>
          setOpened({ what: `a longest chain of ${countText(bucket.value, 'hop')}`, bucket })
        }
      />
      <Histogram
        title="Events by their fan-out"
        buckets={figures.fanOuts}
        limit={limits.maxFanOut}
        onOpen={(bucket) => setOpened({ what: `a fan-out of ${bucket.value}`, bucket })}
      />
      {opened && (
        <div className="opened" role="status">
          <b>
            {countText(opened.bucket.count, 'event')} with {opened.what}
          </b>
          <ul>
            {opened.bucket.events.map((e) => (
              <li key={`${e.at}.${e.name}`}>
                <Link className="mono" to={rippleHref(`/p/${id}`, e)}>
                  {e.at}.{e.name}
                </Link>
              </li>
            ))}
            {opened.bucket.count > opened.bucket.events.length && (
              <li className="soft">and {opened.bucket.count - opened.bucket.events.length} more</li>
            )}
          </ul>
        </div>
      )}
      {builds && builds.length > 0 && (
        <figure>
          <figcaption>
            Trend over <Link to={`/p/${id}/builds`}>{countText(builds.length, 'build')}</Link>
          </figcaption>
          <Trend builds={builds} onOpen={(build) => void navigate(`/p/${id}/builds?build=${build}`)} />
        </figure>
      )}
      <Bars
        title="Findings by rule"
        counts={byRule}
        onOpen={(rule) => onFilter({ tab: '', rule, finding: '' })}
      />
      <Bars
        title="Hot spots: findings by asset"
        counts={byAsset}
        onOpen={(asset) => onFilter({ tab: '', asset, finding: '' })}
      />
    </section>
  );
}

function Histogram({
  title,
  buckets,
  limit,
  onOpen,
}: {
  title: string;
  buckets: readonly Bucket[];
  limit: number;
  onOpen: (bucket: Bucket) => void;
}): ReactNode {
  const most = buckets.reduce((high, b) => Math.max(high, b.value), limit + 1);
  const by = new Map(buckets.map((b) => [b.value, b]));
  // Far apart values would leave nothing but gaps between them.
  const data =
    most <= 60
      ? Array.from({ length: most }, (_, i) => by.get(i + 1) ?? { value: i + 1, count: 0, events: [] })
      : [...buckets];
  return (
    <figure>
      <figcaption>{title}</figcaption>
      <div className="chart" aria-hidden="true">
        <ResponsiveContainer width="100%" height={150}>
          <BarChart
            data={data}
            margin={{ top: 14, right: 12, bottom: 0, left: 0 }}
            barCategoryGap="18%"
            accessibilityLayer={false}
          >
            <XAxis dataKey="value" stroke="var(--soft)" tickLine={false} />
            <YAxis stroke="var(--soft)" width={40} allowDecimals={false} tickLine={false} axisLine={false} />
            <Tooltip
              cursor={{ fill: 'var(--shade)' }}
              isAnimationActive={false}
              contentStyle={{ background: 'var(--sheet)', border: '1px solid var(--ink)', borderRadius: 0 }}
              formatter={(n) => [countText(Number(n), 'event'), '']}
            />
            <Bar
              dataKey="count"
              isAnimationActive={false}
              cursor="pointer"
              onClick={(bar: { payload?: Bucket }) =>
                bar.payload && bar.payload.count > 0 && onOpen(bar.payload)
              }
            >
              {data.map((b) => (
                <Cell key={b.value} fill={b.value > limit ? 'var(--warning)' : 'var(--ink)'} />
              ))}
            </Bar>
            <ReferenceLine
              x={limit}
              stroke="var(--warning)"
              strokeWidth={2}
              label={{ value: `limit ${limit}`, fill: 'var(--warning)', position: 'top', fontSize: 13 }}
            />
          </BarChart>
        </ResponsiveContainer>
      </div>
      <div className="row buckets" role="group" aria-label={title}>
        {buckets.map((b) => (
          <button
            key={b.value}
            type="button"
            className={`tick ${b.value > limit ? 'over' : ''}`}
            aria-label={`${b.value}: ${countText(b.count, 'event')}${b.value > limit ? ', over the limit' : ''}`}
            onClick={() => onOpen(b)}
          >
            {b.value}: {b.count}
          </button>
        ))}
      </div>
    </figure>
  );
}

interface Count {
  name: string;
  error: number;
  warning: number;
  info: number;
  all: number;
}
function totals(counts: readonly Count[]): [string, number][] {
  return counts.map(({ name, all }) => [name, all]);
}
function counted(findings: readonly Finding[], of: (f: Finding) => string): Count[] {
  const by = new Map<string, Count>();
  for (const f of findings) {
    const name = of(f);
    const c = by.get(name) ?? { name, error: 0, warning: 0, info: 0, all: 0 };
    c[f.severity]++;
    c.all++;
    by.set(name, c);
  }
  return [...by.values()].sort((a, b) => b.all - a.all || (a.name < b.name ? -1 : 1));
}

/** Counts as bars with their words: a list that is a picture. */
function Bars({
  title,
  counts,
  onOpen,
}: {
  title: string;
  counts: readonly Count[];
  onOpen: (name: string) => void;
}): ReactNode {
  const most = counts.reduce((high, c) => Math.max(high, c.all), 1);
  return (
    <figure>
      <figcaption>{title}</figcaption>
      <ul className="bars">
        {counts.slice(0, 14).map((c) => (
          <li key={c.name}>
            <button type="button" className="plain" onClick={() => onOpen(c.name)}>
              <span className="name">{c.name}</span>
              <span className="bar" aria-hidden="true">
                {(['error', 'warning', 'info'] as const).map(
                  (s) => c[s] > 0 && <i key={s} className={s} style={{ width: `${(100 * c[s]) / most}%` }} />,
                )}
              </span>
              <b>{c.all}</b>
              <span className="unseen">
                {countText(c.error, 'error')}, {countText(c.warning, 'warning')}, {countText(c.info, 'note')}
              </span>
            </button>
          </li>
        ))}
        {counts.length > 14 && <li className="soft">and {counts.length - 14} more</li>}
        {counts.length === 0 && <li className="soft">none</li>}
      </ul>
    </figure>
  );
}
