import { XMLBuilder } from 'fast-xml-parser';
import { nodeRef } from '../audit/names.js';
import type { Graph } from '../graph/graph.js';
import { edgeTable, nodeName } from './graph-table.js';
import { xmlText } from './junit.js';

const KEYS = [
  ['name', 'node', 'string'],
  ['type', 'node', 'string'],
  ['kind', 'edge', 'string'],
  ['class', 'edge', 'string'],
  ['delay', 'edge', 'double'],
  ['by', 'edge', 'string'],
] as const;

/** The expanded graph as GraphML: events, actions and channel nodes, with the edges between them. */
export function graphMl(g: Graph): string {
  const data = (values: Record<string, string | number>): object[] =>
    Object.entries(values).map(([key, value]) => ({ '@_key': key, '#text': xmlText(String(value)) }));
  const nodes = Array.from({ length: g.nodes }, (_, n) => ({
    '@_id': `n${n}`,
    data: data({ name: nodeName(g, n), type: nodeRef(g, n).type }),
  }));
  const edges = edgeTable(g).map((e, i) => ({
    '@_id': `e${i}`,
    '@_source': `n${e.tail}`,
    '@_target': `n${e.head}`,
    data: data({ kind: e.kind, class: e.class, delay: e.delay, by: e.by }),
  }));
  const document = {
    '?xml': { '@_version': '1.0', '@_encoding': 'UTF-8' },
    graphml: {
      '@_xmlns': 'http://graphml.graphdrawing.org/xmlns',
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
