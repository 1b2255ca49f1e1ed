import { pathDiagram, type Evidence, type NodeRef, type ProjectIndex } from '@oquel/core';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { layRope, type RopeStop } from './rope-layout.js';
import { PlacesView } from './places-view.js';
import { SideBySide } from './side-by-side.js';
import { PictureMenu } from '../../parts/picture/picture-menu.js';
import { instancePlace, stepPlace } from '../../parts/places.js';

interface Props {
  index: ProjectIndex;
  base: string;
  evidence: Evidence;
  maxChain: number;
}

/** What proves a finding, drawn where a drawing says more than a list. */
export function EvidenceView(props: Props): ReactNode {
  const { evidence, index, base } = props;
  switch (evidence.kind) {
    case 'path':
      return <RopeView {...props} evidence={evidence} />;
    case 'nodes':
      return (
        <ul className="problemlist">
          {evidence.nodes.map((n, i) => {
            const place =
              n.at === undefined ? null : instancePlace(index, base, n.at, n.type === 'event' ? n.name : '');
            return (
              <li key={i}>
                {place ? <Link to={place.href}>{nodeText(n)}</Link> : nodeText(n)}{' '}
                <span className="soft">{n.type}</span>
              </li>
            );
          })}
          {evidence.more > 0 && <li className="soft">and {evidence.more} more</li>}
        </ul>
      );
    case 'names':
      return (
        <p>
          Wanted <b className="mono">{evidence.wanted}</b>; there is{' '}
          {evidence.known.length === 0 ? 'nothing of that kind' : ''}
          <span className="mono">{evidence.known.slice(0, 40).join(', ')}</span>
          {evidence.known.length > 40 && ` and ${evidence.known.length - 40} more`}.
        </p>
      );
    case 'bindings':
      return <SideBySide index={index} base={base} bindings={evidence.bindings} />;
    case 'places':
      return <PlacesView index={index} base={base} places={evidence.places} />;
  }
}

type PathEvidence = Extract<Evidence, { kind: 'path' }>;

/** A chain or cycle as stops on a rope: events as rings, actions as numbered hops, channels as bars. */
function RopeView({ index, base, evidence, maxChain }: Props & { evidence: PathEvidence }): ReactNode {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(600);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width));
    watch.observe(box.current!);
    return () => watch.disconnect();
  }, []);
  const { steps, closed, latency } = evidence;
  const rope = layRope(steps, closed, width);
  const hops = rope.stops.filter((s) => s.hop !== undefined).length;
  return (
    <div ref={box}>
      <svg
        width={rope.width}
        height={rope.height}
        viewBox={`0 0 ${rope.width} ${rope.height}`}
        role="img"
        aria-label={`${closed ? 'Cycle' : 'Chain'} of ${hops} hops: ${rope.stops.map((s) => nodeText(s.step.node)).join(', then ')}`}
        style={{ maxWidth: '100%' }}
      >
        <polyline className="ropeline" points={rope.line.map((p) => p.join(',')).join(' ')} />
        {closed && <ReturnMark stop={rope.stops[0]} />}
        {rope.stops.map((stop, i) => (
          <Stop key={i} stop={stop} beyond={!closed && (stop.hop ?? 0) > maxChain} />
        ))}
      </svg>
      <PictureMenu
        title={`${closed ? 'Cycle' : 'Chain'} of ${hops} hops`}
        drawing={() => box.current?.querySelector('svg') ?? null}
        diagram={() => pathDiagram(steps, `${closed ? 'Cycle' : 'Chain'} of ${hops} hops`)}
      />
      <ol className="sentences" aria-label="The same as a list">
        {steps.map((step, i) => {
          const place = stepPlace(index, base, step);
          const hop =
            step.node.type === 'action'
              ? steps.slice(0, i + 1).filter((s) => s.node.type === 'action').length
              : 0;
          return (
            <li key={i} className="sentence">
              <span className="nth">{hop > 0 ? hop : ''}</span>
              <span>
                {step.via && <span className="soft">{viaText(step.via)} </span>}
                <span className="who">{step.node.at ?? `#${step.node.name}`}</span>{' '}
                {step.node.at !== undefined && step.node.name}
                {step.node.key !== undefined && ` at ${JSON.stringify(step.node.key)}`}
                {step.via?.delay !== undefined && <span className="option">after {step.via.delay} s</span>}
                {step.via && step.via.class !== 'instant' && step.via.class !== 'delayed' && (
                  <span className="option">{step.via.class}</span>
                )}
              </span>
              {place && step.via?.binding ? (
                <Link to={place.href}>{step.via.binding.binding}</Link>
              ) : (
                <span />
              )}
            </li>
          );
        })}
      </ol>
      <p className="soft">
        {hops} {hops === 1 ? 'hop' : 'hops'}
        {latency > 0 ? `, ${latency} s along this way` : ', all within one frame'}
        {!closed && hops > maxChain ? `; the hops beyond the limit of ${maxChain} are filled red` : ''}.
      </p>
    </div>
  );
}

function Stop({ stop: { step, x, y, hop }, beyond }: { stop: RopeStop; beyond: boolean }): ReactNode {
  const { node, via } = step;
  const [where, what] = labels(node);
  return (
    <g className={`stop ${node.type} ${beyond ? 'beyond' : ''}`}>
      {node.type === 'channel' ? (
        <rect x={x - 5} y={y - 12} width={10} height={24} />
      ) : (
        <circle cx={x} cy={y} r={node.type === 'action' ? 10 : 6} />
      )}
      {hop !== undefined && (
        <text className="hop" x={x} y={y + 4}>
          {hop}
        </text>
      )}
      {via?.delay !== undefined && (
        <text x={x - 16} y={y - 8} textAnchor="end" style={{ fontSize: 11 }}>
          {via.delay} s
        </text>
      )}
      <text x={x} y={y + 28} textAnchor="middle">
        {short(where)}
      </text>
      <text className="does" x={x} y={y + 43} textAnchor="middle">
        {short(what)}
      </text>
    </g>
  );
}
function ReturnMark({ stop }: { stop: RopeStop }): ReactNode {
  return (
    <path d={`M${stop.x - 24} ${stop.y - 6}l9 6-9 6`} fill="none" stroke="var(--error)" strokeWidth="2.4" />
  );
}

function labels(node: NodeRef): [string, string] {
  if (node.type === 'channel')
    return [`#${node.name}`, node.key === undefined ? 'channel' : `at ${JSON.stringify(node.key)}`];
  return [node.at!.slice(node.at!.indexOf(':') + 1), node.name];
}
function short(text: string): string {
  return text.length > 21 ? `${text.slice(0, 9)}…${text.slice(-11)}` : text;
}
function nodeText(n: NodeRef): string {
  const key = n.key === undefined ? '' : ` at ${JSON.stringify(n.key)}`;
  return n.at === undefined ? `#${n.name}${key}` : `${n.at} ${n.name}`;
}
function viaText(via: NonNullable<PathEvidence['steps'][number]['via']>): string {
  switch (via.kind) {
    case 'bind':
      return 'do';
    case 'publish':
      return 'tell';
    case 'hear':
      return 'heard by';
    case 'raise':
      return 'raises';
    case 'spawn':
      return 'spawns';
  }
}
