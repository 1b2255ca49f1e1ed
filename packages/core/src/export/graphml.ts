import { XMLBuilder } from 'fast-xml-parser';
import { nodeRef } from '../audit/names.js';
import type { NodeRef } from '../audit/finding.js';
import type { Graph } from '../graph/graph.js';
import { canonicalJson } from '../project/canonical.js';
import { edgeTable, nodeName, type EdgeLine } from './graph-table.js';
import { xmlText } from './junit.js';

/** What nodes and edges carry; each name stands for one thing in the whole file, as the schema wants it. */
const KEYS = [
  ['name', 'node', 'string'],
  ['type', 'node', 'string'],
  ['instance', 'node', 'string'],
  ['event', 'node', 'string'],
  ['action', 'node', 'string'],
  ['channel', 'node', 'string'],
  ['key', 'node', 'string'],
  ['kind', 'edge', 'string'],
  ['class', 'edge', 'string'],
  ['delay', 'edge', 'double'],
  ['owner', 'edge', 'string'],
  ['binding', 'edge', 'string'],
  ['effect', 'edge', 'string'],
] as const;

/** The expanded graph as GraphML: events, actions and channel nodes, with the edges between them. */
export function graphMl(g: Graph): string {
  const data = (values: Record<string, string | number | null | undefined>): object[] =>
    Object.entries(values).flatMap(([key, value]) =>
      value === null || value === undefined ? [] : [{ '@_key': key, '#text': xmlText(String(value)) }],
    );
  const nodes = Array.from({ length: g.nodes }, (_, n) => ({
    '@_id': `n${n}`,
    data: data({ name: nodeName(g, n), ...partsOf(nodeRef(g, n)) }),
  }));
  const edges = edgeTable(g).map((e, i) => ({
    '@_id': `e${i}`,
    '@_source': `n${e.tail}`,
    '@_target': `n${e.head}`,
    data: data({ kind: e.kind, class: e.class, delay: e.delay, ...whoseOf(e) }),
  }));
  const document = {
    '?xml': { '@_version': '1.0', '@_encoding': 'UTF-8' },
    graphml: {
      '@_xmlns': 'http://graphml.graphdrawing.org/xmlns',
      '@_xmlns:xsi': 'http://www.w3.org/2001/XMLSchema-instance',
      '@_xsi:schemaLocation':
        'http://graphml.graphdrawing.org/xmlns http://graphml.graphdrawing.org/xmlns/1.0/graphml.xsd',
      key: KEYS.map(([id, of, type]) => ({
        '@_id': id,
        '@_for': of,
        '@_attr.name': id,
        '@_attr.type': type,
      })),
      graph: { '@_id': 'bindings', '@_edgedefault': 'directed', node: nodes, edge: edges },
    },
  };
  return new XMLBuilder({ ignoreAttributes: false, format: true, suppressEmptyNode: true }).build(document);
}

function partsOf({ type, at, name, key }: NodeRef): Record<string, string | undefined> {
  const of = key === undefined ? undefined : canonicalJson(key);
  return { type, instance: at, [type]: name, key: of };
}
function whoseOf({ binding, effect }: EdgeLine): Record<string, string | null> {
  return { owner: binding?.owner ?? null, binding: binding?.id ?? null, effect };
}
