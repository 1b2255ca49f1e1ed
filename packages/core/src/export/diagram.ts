import type { NodeRef, PathStep } from '../audit/finding.js';
import { printValue } from '../wireline/print.js';
import { entryWords } from '../ripple/lines.js';
import { delayText } from '../ripple/notes.js';
import type { Ripple, RippleLink } from '../ripple/model.js';

/** A drawing as text: nodes in the order in which they come, and what joins them. */
export interface Diagram {
  title: string;
  nodes: { key: string; lines: string[]; kind: 'event' | 'action' | 'channel' | 'cycle' }[];
  links: { from: string; to: string; text: string; returns: boolean }[];
}

/** A ripple with all that it shows. */
export function rippleDiagram(ripple: Ripple, title: string): Diagram {
  return {
    title,
    nodes: ripple.entries.map((e) => ({
      key: e.key,
      lines: [...entryWords(e).filter((w) => w !== ''), ...(e.count > 1 ? [`× ${e.count}`] : [])],
      kind: e.kind,
    })),
    links: ripple.links.map((l) => ({ from: l.from, to: l.to, text: linkWords(l), returns: l.returns })),
  };
}
function linkWords({ via, delay, delayMost, asks }: RippleLink): string {
  return [...via, delayText(delay, delayMost), ...asks].filter((t) => t !== '').join(', ');
}

/** The way that proves a finding: each node once, so that a cycle closes. */
export function pathDiagram(steps: readonly PathStep[], title: string): Diagram {
  const nodes = new Map<string, Diagram['nodes'][number]>();
  const links: Diagram['links'] = [];
  let before: string | null = null;
  for (const { node, via } of steps) {
    const lines = nodeLines(node);
    const key = lines.join('\n') + node.type;
    const isThere = nodes.has(key);
    if (!isThere) nodes.set(key, { key, lines, kind: node.type });
    if (before !== null) {
      const by = via?.binding
        ? `${via.binding.asset}: ${via.binding.binding}`
        : via?.effect
          ? 'its own effect'
          : '';
      const delay = via?.delay ? `${via.delay} s` : '';
      links.push({ from: before, to: key, text: [by, delay].filter(Boolean).join(', '), returns: isThere });
    }
    before = key;
  }
  return { title, nodes: [...nodes.values()], links };
}
function nodeLines({ at, name, key }: NodeRef): string[] {
  if (at === undefined) return [`#${name}${key === undefined ? '' : `[${printValue(key)}]`}`];
  return [at, name];
}

/** As a Mermaid flowchart. Linear in it. */
export function mermaidText({ title, nodes, links }: Diagram): string {
  const at = new Map(nodes.map((n, i) => [n.key, `n${i}`]));
  const shape = {
    event: ['([', '])'],
    action: ['[', ']'],
    channel: ['{{', '}}'],
    cycle: ['(((', ')))'],
  } as const;
  const lines = [
    '---',
    `title: ${JSON.stringify(title)}`,
    '---',
    'flowchart LR',
    ...nodes.map(({ key, lines: words, kind }) => {
      const [open, close] = shape[kind];
      return `  ${at.get(key)!}${open}"${words.map(mermaidWords).join('<br/>')}"${close}`;
    }),
    ...links.map(({ from, to, text, returns }) => {
      const arrow = returns ? '-.->' : '-->';
      return `  ${at.get(from)!} ${arrow}${text === '' ? '' : `|"${mermaidWords(text)}"|`} ${at.get(to)!}`;
    }),
  ];
  return `${lines.join('\n')}\n`;
}
/** What has a meaning in its labels goes by numbers. */
function mermaidWords(text: string): string {
  return text.replace(/[#"<>&`|;[\]{}()]/g, (c) => `#${c.charCodeAt(0)};`).replace(/[\r\n]+/g, ' ');
}

/** In the DOT language of Graphviz. Linear in it. */
export function dotText({ title, nodes, links }: Diagram): string {
  const at = new Map(nodes.map((n, i) => [n.key, `n${i}`]));
  const shape = { event: 'oval', action: 'box', channel: 'hexagon', cycle: 'doublecircle' } as const;
  const lines = [
    `digraph ${dotWords(title)} {`,
    '  rankdir=LR;',
    ...nodes.map(
      ({ key, lines: words, kind }) =>
        `  ${at.get(key)!} [shape=${shape[kind]}, label=${dotWords(words.join('\n'))}];`,
    ),
    ...links.map(({ from, to, text, returns }) => {
      const look = [
        ...(text === '' ? [] : [`label=${dotWords(text)}`]),
        ...(returns ? ['style=dashed', 'constraint=false'] : []),
      ];
      return `  ${at.get(from)!} -> ${at.get(to)!}${look.length > 0 ? ` [${look.join(', ')}]` : ''};`;
    }),
    '}',
  ];
  return `${lines.join('\n')}\n`;
}
function dotWords(text: string): string {
  return `"${text.replace(/\\/g, '\\\\').replace(/"/g, '\\"').replace(/\r?\n/g, '\\n')}"`;
}
