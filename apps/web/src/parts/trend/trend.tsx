import './trend.css';
import type { ReactNode } from 'react';
import { Area, AreaChart, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { Build } from '../../api/client.js';
import { useSessionState } from '../../session/session-context.js';
import { countText, shortNumber } from '../../format.js';

interface Point {
  id: string;
  name: string;
  error: number;
  warning: number;
  info: number;
  bindings: number;
  longestChain: number;
  cycles: number;
}
const TIP = {
  isAnimationActive: false,
  contentStyle: { background: 'var(--sheet)', border: '1px solid var(--ink)', borderRadius: 0 },
} as const;

/** Findings and figures of the graph from build to build, up to now. The ledger says the same in numbers. */
export function Trend({
  builds,
  onOpen,
}: {
  builds: readonly Build[];
  onOpen: (build: string) => void;
}): ReactNode {
  const { audit } = useSessionState();
  const points: Point[] = builds.map((b) => ({ id: b.id, name: b.name, ...figures(b) }));
  if (audit) {
    const { summary, metrics } = audit;
    points.push({
      id: '',
      name: 'now',
      ...figures({ summary: { ...summary }, metrics: { ...metrics } }),
    });
  }
  const open = ({ activeLabel }: { activeLabel?: string | number }): void => {
    const point = points.find((p) => p.name === activeLabel);
    if (point && point.id !== '') onOpen(point.id);
  };
  const axis = (
    <XAxis
      dataKey="name"
      stroke="var(--soft)"
      tickLine={false}
      interval="preserveStartEnd"
      padding={{ left: 18, right: 18 }}
    />
  );
  const common = {
    data: points,
    margin: { top: 8, right: 8, bottom: 0, left: 0 },
    accessibilityLayer: false,
  };
  const y = {
    stroke: 'var(--soft)',
    width: 38,
    allowDecimals: false,
    tickLine: false,
    axisLine: false,
    tickFormatter: (n: number) => shortNumber(n),
  } as const;
  return (
    <div className="trend">
      <ul className="unseen" aria-label="From build to build">
        {points.map((p) => (
          <li key={p.name}>
            {p.name}: {countText(p.error, 'error')}, {countText(p.warning, 'warning')},{' '}
            {countText(p.info, 'note')}; {countText(p.bindings, 'binding')}, a longest chain of{' '}
            {countText(p.longestChain, 'hop')}, {countText(p.cycles, 'cycle')}
          </li>
        ))}
      </ul>
      <div aria-hidden="true">
        <h3>Findings from build to build</h3>
        <ResponsiveContainer width="100%" height={120}>
          <AreaChart {...common} onClick={open}>
            {axis}
            <YAxis {...y} />
            <Tooltip {...TIP} />
            {(['error', 'warning', 'info'] as const).map((s) => (
              <Area
                key={s}
                name={s === 'info' ? 'notes' : `${s}s`}
                dataKey={s}
                stackId="all"
                type="linear"
                isAnimationActive={false}
                stroke={`var(--${s})`}
                fill={`var(--${s})`}
                fillOpacity={0.34}
              />
            ))}
          </AreaChart>
        </ResponsiveContainer>
        <h3>
          <i className="key" /> bindings <i className="key chain" /> longest chain{' '}
          <i className="key cycles" /> cycles
        </h3>
        <ResponsiveContainer width="100%" height={110}>
          <LineChart {...common} onClick={open}>
            {axis}
            <YAxis yAxisId="bindings" {...y} />
            <YAxis yAxisId="hops" orientation="right" {...y} width={26} />
            <Tooltip {...TIP} />
            <Line
              yAxisId="bindings"
              name="bindings"
              dataKey="bindings"
              stroke="var(--ink)"
              strokeWidth={2}
              isAnimationActive={false}
            />
            <Line
              yAxisId="hops"
              name="longest chain"
              dataKey="longestChain"
              stroke="var(--accent)"
              strokeWidth={2}
              strokeDasharray="5 3"
              isAnimationActive={false}
            />
            <Line
              yAxisId="hops"
              name="cycles"
              dataKey="cycles"
              stroke="var(--warning)"
              strokeDasharray="2 3"
              isAnimationActive={false}
            />
          </LineChart>
        </ResponsiveContainer>
      </div>
    </div>
  );
}

function figures({
  summary,
  metrics,
}: {
  summary: Record<string, number>;
  metrics: Record<string, number>;
}): Omit<Point, 'id' | 'name'> {
  const { error, warning, info } = summary;
  const { bindings, longestChain, cycles } = metrics;
  return { error, warning, info, bindings, longestChain, cycles };
}
