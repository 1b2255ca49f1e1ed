import { nodeName, type Evidence, type ProjectIndex } from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { instancePlace } from '../../parts/places.js';
import { PlacesPlan } from './places-plan.js';

type NodesEvidence = Extract<Evidence, { kind: 'nodes' }>;
interface Props {
  index: ProjectIndex;
  base: string;
  evidence: NodesEvidence;
}

/** Events, actions or channels that a finding speaks of, where they are on the plan and by name. */
export function NodesView({ index, base, evidence: { nodes, more } }: Props): ReactNode {
  return (
    <>
      <PlacesPlan index={index} addresses={nodes.flatMap((n) => (n.at === undefined ? [] : [n.at]))} />
      <ul className="problemlist">
        {nodes.map((n, i) => {
          const place =
            n.at === undefined ? null : instancePlace(index, base, n.at, n.type === 'event' ? n.name : '');
          return (
            <li key={i}>
              {place ? <Link to={place.href}>{nodeName(n)}</Link> : nodeName(n)}{' '}
              <span className="soft">{n.type}</span>
            </li>
          );
        })}
        {more > 0 && <li className="soft">and {more} more</li>}
      </ul>
    </>
  );
}
