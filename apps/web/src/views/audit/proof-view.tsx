import { pathDiagram, proofTracks, type PathEvidence, type ProjectIndex, type ProofTrack } from '@oquel/core';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { PictureMenu } from '../../parts/picture/picture-menu.js';
import { bindingPlace, instancePlace } from '../../parts/places.js';
import { LANES, layProof, LINE, type PlacedRow } from './proof-layout.js';

interface Props {
  index: ProjectIndex;
  base: string;
  evidence: PathEvidence;
  maxChain: number;
}

/** A chain or cycle drawn from top to bottom: every step with its whole name and what leads to it. */
export function ProofView({ index, base, evidence, maxChain }: Props): ReactNode {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(640);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width));
    watch.observe(box.current!);
    return () => watch.disconnect();
  }, []);
  const tracks = useMemo(() => proofTracks(index, evidence), [index, evidence]);
  const [main] = tracks;
  const { steps, closed, latency } = evidence;
  return (
    <div ref={box} className="proof">
      {tracks.map((track, i) => (
        <section key={i} aria-label={track.title}>
          {i > 0 && <h4>{track.title}</h4>}
          <Track index={index} base={base} track={track} width={width} limit={closed ? Infinity : maxChain} />
          {track.more > 0 && <p className="soft">and {track.more} more steps</p>}
        </section>
      ))}
      <p className="soft">
        {main.title}
        {latency > 0 ? `, ${latency} s from its start to its end` : ', all within one frame'}
        {!closed && main.hops > maxChain ? `; hops beyond the limit of ${maxChain} are filled red` : ''}.
      </p>
      <PictureMenu
        title={main.title}
        drawing={() => box.current?.querySelector('svg') ?? null}
        diagram={() => pathDiagram(steps, main.title)}
      />
    </div>
  );
}

interface TrackProps {
  index: ProjectIndex;
  base: string;
  track: ProofTrack;
  width: number;
  limit: number;
}
function Track({ index, base, track, width, limit }: TrackProps): ReactNode {
  const layout = useMemo(() => layProof(track, width), [track, width]);
  const { rows } = layout;
  const [first] = rows;
  const last = rows[rows.length - 1];
  return (
    <svg
      className="prooftrack"
      width={layout.width}
      height={layout.height}
      viewBox={`0 0 ${layout.width} ${layout.height}`}
      role="group"
      aria-label={`${track.title}: ${rows.map((r) => r.row.name).join(', then ')}`}
    >
      <path className="way" d={`M${LANES.way} ${first.y}V${last.y}`} />
      {track.closed && (
        <path
          className="way back"
          d={`M${LANES.way} ${last.y}H${LANES.back}V${first.y}H${LANES.way - 12}m-6 -5l6 5l-6 5`}
        />
      )}
      {rows.map((placed, i) => (
        <Row key={i} index={index} base={base} placed={placed} limit={limit} />
      ))}
    </svg>
  );
}

function Row({
  index,
  base,
  placed: { row, y, via },
  limit,
}: {
  index: ProjectIndex;
  base: string;
  placed: PlacedRow;
  limit: number;
}): ReactNode {
  const { node, hop, returns, binding } = row;
  const place =
    node.at === undefined
      ? null
      : instancePlace(index, base, node.at, node.type === 'event' ? node.name : '');
  const wire = binding ? bindingPlace(index, base, binding.asset, binding.binding) : null;
  const name = `${returns ? 'back to ' : ''}${row.name}`;
  const how = via.map((line, i) => (
    <text key={i} className="via" x={LANES.words} y={y - 14 - (via.length - 1 - i) * LINE}>
      {line}
    </text>
  ));
  const top = y - 10 - via.length * LINE;
  return (
    <g
      className={`stop ${node.type} ${returns ? 'returns' : ''} ${hop !== undefined && hop > limit ? 'beyond' : ''}`}
    >
      {row.delay > 0 && (
        <>
          <path className="wait" d={`M${LANES.way - 5} ${top + 8}h10M${LANES.way - 5} ${top + 12}h10`} />
          <text className="delay" x={LANES.way - 9} y={top + 14}>
            {row.delay} s
          </text>
        </>
      )}
      {node.type === 'channel' ? (
        <rect x={LANES.way - 9} y={y - 5} width={18} height={10} />
      ) : (
        <circle cx={LANES.way} cy={y} r={node.type === 'action' ? 10 : 6} />
      )}
      {hop !== undefined && (
        <text className="hop" x={LANES.way} y={y + 4}>
          {hop}
        </text>
      )}
      {wire ? <Link to={wire.href}>{how}</Link> : how}
      {place ? (
        <Link to={place.href}>
          <text className="node" x={LANES.words} y={y + 4}>
            {name}
          </text>
        </Link>
      ) : (
        <text className="node" x={LANES.words} y={y + 4}>
          {name}
        </text>
      )}
    </g>
  );
}
