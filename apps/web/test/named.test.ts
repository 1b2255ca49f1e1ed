import { describe, expect, it } from '@jest/globals';
import { indexProject, type Project } from '@oquel/core';
import { findNamed, namedThings } from '../src/parts/goto/named-things.js';

const project: Project = {
  format: 'oquel.project/1',
  name: 'Veyra',
  channels: [{ name: 'tension' }],
  enums: [{ name: 'Line', values: ['east'] }],
  tables: [{ name: 'Words', keys: [] }],
  rehearsals: [{ name: 'a storm', steps: [] }],
  assets: [
    {
      id: 'ridge',
      kind: 'scene',
      placements: [
        { id: 'mast-1', asset: 'Mast' },
        { id: 'gust-mat', asset: 'Mast' },
      ],
      bindings: [{ id: 'gust', from: { channel: 'tension' }, to: { at: 'mast-1', action: 'turn' } }],
    },
    {
      id: 'Mast',
      kind: 'prefab',
      events: [{ name: 'onGust', cause: { type: 'code' } }],
      actions: [{ name: 'turn' }],
    },
  ],
};
const all = namedThings(indexProject(project));
const names = (text: string): string[] => findNamed(all, text, 20).map((n) => `${n.kind} ${n.name}`);

describe('what has a name', () => {
  it.each<[string, string[]]>([
    ['gust', ['binding gust', 'thing gust-mat', 'event onGust']],
    ['MAST', ['prefab Mast', 'thing mast-1']],
    ['tension', ['channel #tension']],
    ['turn mast', ['action turn']],
    ['gust ridge', ['binding gust', 'thing gust-mat']],
    ['line', ['enum Line']],
    ['words', ['key table Words']],
    ['storm', ['rehearsal a storm']],
    ['builds', ['view Builds']],
    ['nothing', []],
  ])('is found by %s, the best first', (text, expected) => {
    expect(names(text)).toEqual(expected);
  });
  it('is shown without the bindings before anything is typed, views first', () => {
    expect(names('').slice(0, 2)).toEqual(['view Plan', 'view Wire']);
    expect(names('')).not.toContain('binding gust');
  });
  it('leads to where it is', () => {
    expect(findNamed(all, 'gust', 1)[0].to).toBe('wire?scope=ridge&at=%23tension&event=tension&binding=gust');
    expect(findNamed(all, 'Line', 1)[0].to).toBe('catalogue?entry=enum%3ALine');
    expect(findNamed(all, 'storm', 1)[0].to).toBe('rehearse?name=a+storm');
    expect(findNamed(all, 'mast-1', 1)[0].to).toBe('wire?scope=ridge&at=mast-1');
  });
});
