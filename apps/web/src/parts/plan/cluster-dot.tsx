import { memo, type ReactNode } from 'react';
import { clusterText, type Cluster } from './clusters.js';

/** Things that stand too near to one another, as a dot with their number; opening it zooms in. */
export const ClusterDot = memo(function ClusterDot({
  cluster,
  onOpen,
}: {
  cluster: Cluster;
  onOpen: () => void;
}): ReactNode {
  const { x, y, radius, things } = cluster;
  const name = `${things.length} things: ${clusterText(cluster)}`;
  return (
    <g className="cluster">
      <title>{name}</title>
      <circle
        cx={x}
        cy={y}
        r={radius}
        role="button"
        tabIndex={-1}
        aria-label={name}
        onClick={onOpen}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' && e.key !== ' ') return;
          e.preventDefault();
          onOpen();
        }}
      />
      <text aria-hidden="true" x={x} y={y + 4}>
        {things.length}
      </text>
    </g>
  );
});
