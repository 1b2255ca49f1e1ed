import { type Finding, type ProjectIndex } from '@oquel/core';
import type { ReactNode } from 'react';
import { BindingsView } from './bindings-view.js';
import { NamesView } from './names-view.js';
import { NodesView } from './nodes-view.js';
import { PlacesView } from './places-view.js';
import { ProofView } from './proof-view.js';

interface Props {
  index: ProjectIndex;
  base: string;
  finding: Finding;
  maxChain: number;
}

/** What proves a finding, drawn where a drawing says more than a list. */
export function EvidenceView(props: Props): ReactNode {
  const { finding, index, base, maxChain } = props;
  const { evidence } = finding;
  switch (evidence.kind) {
    case 'path':
      return <ProofView index={index} base={base} evidence={evidence} maxChain={maxChain} />;
    case 'nodes':
      return <NodesView index={index} base={base} evidence={evidence} />;
    case 'names':
      return <NamesView rule={finding.rule} wanted={evidence.wanted} known={evidence.known} />;
    case 'bindings':
      return (
        <BindingsView
          index={index}
          base={base}
          bindings={evidence.bindings}
          occurrences={finding.occurrences}
        />
      );
    case 'places':
      return <PlacesView index={index} base={base} places={evidence.places} />;
  }
}
