import type { ChainStretch, EdgeRef, NodeRef, PathEvidence, PathStep } from '../audit/finding.js';
import { chainText } from '../graph/chain-parts.js';
import { EDGE_CLASSES } from '../graph/graph.js';
import type { ProjectIndex } from '../project/index-project.js';
import { printBinding, printValue } from '../wireline/print.js';

/** One node of a proof as it is drawn: a row with its number, its name and what leads to it. */
export interface ProofRow {
  node: NodeRef;
  /** Number of the hop that ends here; of a return the number of the hop that it returns to. Absent for others. */
  hop?: number;
  /** It is the first row again, to which a cycle returns. */
  returns: boolean;
  /** The whole name: `pylon-ridge:mast-1 onGust`, `#weather["storm"]`. */
  name: string;
  /** What leads here from the row before; empty at the start. */
  via: string;
  /** Seconds that it takes from the row before. */
  delay: number;
  /** Of what leads here, when it is by a binding. */
  binding?: { asset: string; binding: string };
}

/** One drawing of a proof: a chain, or a way round a cycle. */
export interface ProofTrack {
  /** What it is: `Chain of 7 hops`, `Cycle of 3 hops`. */
  title: string;
  closed: boolean;
  rows: ProofRow[];
  hops: number;
  /** Steps that are left out at the end. */
  more: number;
}

/** The drawings of a chain or cycle: all of its steps in order, and for each cycle that a chain runs into a way round it. Linear. */
export function proofTracks(index: ProjectIndex, evidence: PathEvidence): ProofTrack[] {
  const { steps, closed, more = 0, parts = [] } = evidence;
  const main = trackOf(index, steps, closed, more);
  if (!closed && parts.length > 0) {
    const isHidden = parts.some(({ cycle }) => cycle?.length === 0);
    main.title = `Chain of ${chainText(stretches(parts))}${isHidden ? ' (no way round is drawn)' : ''}`;
  }
  return [
    main,
    ...parts.flatMap(({ cycle, hops, from }) => {
      if (!cycle || cycle.length === 0) return [];
      const round = trackOf(index, cycle, true, 0);
      const whole = round.hops === hops ? '' : `, a shortest way round with ${hopText(round.hops)}`;
      return [
        {
          ...round,
          title: `The cycle of ${hops} that it runs into at ${nodeName(steps[from]?.node ?? cycle[0].node)}${whole}`,
        },
      ];
    }),
  ];
}
function stretches(parts: readonly ChainStretch[]): { hops: number; cycle: boolean }[] {
  return parts.map(({ hops, cycle }) => ({ hops, cycle: cycle !== undefined }));
}

function trackOf(index: ProjectIndex, steps: readonly PathStep[], closed: boolean, more: number): ProofTrack {
  let hop = 0;
  const rows = steps.map(({ node, via }, i): ProofRow => {
    const returns = closed && i === steps.length - 1;
    const row: ProofRow = {
      node,
      returns,
      name: nodeName(node),
      via: via ? viaText(index, via) : '',
      delay: via?.delay ?? 0,
    };
    if (via?.binding) row.binding = via.binding;
    if (node.type === 'action' && !returns) row.hop = hop += 1;
    return row;
  });
  // What a cycle returns to was counted first: a cycle has as many hops as actions.
  const [first] = rows;
  const last = rows[rows.length - 1];
  if (closed && first?.hop !== undefined) last.hop = first.hop;
  return { title: `${closed ? 'Cycle' : 'Chain'} of ${hopText(hop)}`, closed, rows, hops: hop, more };
}
function hopText(hops: number): string {
  return `${hops} ${hops === 1 ? 'hop' : 'hops'}`;
}

/** `pylon-ridge:mast-1 onGust`, `#weather["storm"]`. */
export function nodeName({ at, name, key }: NodeRef): string {
  if (at !== undefined) return `${at} ${name}`;
  return `#${name}${key === undefined ? '' : `[${printValue(key)}]`}`;
}

/** The binding as its wire line with the asset that owns it, or the effect. */
function viaText(index: ProjectIndex, via: EdgeRef): string {
  if (via.effect) return `its effect: ${via.effect.effect.replace(':', ' ')}${classText(via)}`;
  if (!via.binding) return VIA[via.kind];
  const { asset, binding } = via.binding;
  const owner = index.assets[index.assetAt.get(asset) ?? -1];
  const decl = owner?.bindings[owner.bindingAt.get(binding) ?? -1];
  return decl ? `${printBinding(decl)} (in ${asset})` : `${VIA[via.kind]} ${binding} (in ${asset})`;
}
const VIA = {
  bind: 'do, by',
  publish: 'publish, by',
  hear: 'heard, by',
  raise: 'raised',
  spawn: 'spawned',
} as const;
/** A condition or a limit that an effect's name does not say. */
function classText({ class: how }: EdgeRef): string {
  return EDGE_CLASSES.indexOf(how) < 2 ? `, ${how}` : '';
}
