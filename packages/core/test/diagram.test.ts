import { describe, expect, it } from '@jest/globals';
import {
  audit,
  buildGraph,
  dotText,
  expand,
  indexProject,
  mermaidText,
  pathDiagram,
  rippleDiagram,
  rippleOf,
  type Project,
} from '../src/index.js';

const YARD: Project = {
  format: 'oquel.project/1',
  name: 'Yard',
  channels: [{ name: 'night' }],
  assets: [
    {
      id: 'Bell',
      kind: 'prefab',
      events: [
        { name: 'onRung', cause: { type: 'use' } },
        { name: 'onStilled', cause: { type: 'raised' } },
      ],
      actions: [{ name: 'ring', effects: [{ raise: 'onStilled', delay: 0.5 }] }],
    },
    {
      id: 'yard',
      kind: 'scene',
      placements: ['bell-1', 'bell-2'].map((id) => ({ id, asset: 'Bell' })),
      bindings: [
        { id: 'a', from: { at: 'bell-1', event: 'onRung' }, to: { at: 'bell-2', action: 'ring' } },
        { id: 'b', from: { at: 'bell-2', event: 'onStilled' }, to: { at: 'bell-2', action: 'ring' } },
        { id: 'c', from: { at: 'bell-1', event: 'onRung' }, to: { channel: 'night', key: 'a "b" [c]' } },
      ],
    },
  ],
};

describe('a picture as text', () => {
  const g = buildGraph(expand(indexProject(YARD)));
  const ripple = rippleOf(g, { start: { at: 'yard:bell-1', name: 'onRung' }, direction: 'forward' })!;
  it('is a Mermaid flowchart of a ripple: all entries, links with what they ask and delay, returns dashed', () => {
    expect(mermaidText(rippleDiagram(ripple, 'onRung of "bell-1"'))).toBe(
      [
        '---',
        'title: "onRung of \\"bell-1\\""',
        '---',
        'flowchart LR',
        '  n0(["bell-1<br/>onRung"])',
        '  n1["bell-2<br/>ring"]',
        '  n2{{"#35;night#91;#34;a \\#34;b\\#34; #91;c#93;#34;#93;"}}',
        '  n0 --> n1',
        '  n0 --> n2',
        '  n1 -.->|"onStilled, after 0.5 s"| n1',
        '',
      ].join('\n'),
    );
  });
  it('is a graph in DOT, with every quote and line end guarded', () => {
    const text = dotText(rippleDiagram(ripple, 'onRung of "bell-1"'));
    expect(text.split('\n')).toEqual([
      'digraph "onRung of \\"bell-1\\"" {',
      '  rankdir=LR;',
      '  n0 [shape=oval, label="bell-1\\nonRung"];',
      '  n1 [shape=box, label="bell-2\\nring"];',
      '  n2 [shape=hexagon, label="#night[\\"a \\\\\\"b\\\\\\" [c]\\"]"];',
      '  n0 -> n1;',
      '  n0 -> n2;',
      '  n1 -> n1 [label="onStilled, after 0.5 s", style=dashed, constraint=false];',
      '}',
      '',
    ]);
  });
  it('closes the cycle that proves a finding', () => {
    const cycle = audit(YARD, { today: '2026-01-01' }).findings.find((f) => f.rule === 'relay-cycle')!;
    if (cycle.evidence.kind !== 'path') throw new Error('no path');
    const { nodes, links } = pathDiagram(cycle.evidence.steps, cycle.message);
    expect(nodes.map((n) => n.lines.join(' '))).toEqual(['yard:bell-2 ring', 'yard:bell-2 onStilled']);
    expect(links.map((l) => [l.text, l.returns])).toEqual([
      ['its own effect, 0.5 s', false],
      ['yard: b', true],
    ]);
  });
});
