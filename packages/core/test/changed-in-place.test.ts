import { describe, expect, it } from '@jest/globals';
import { audit, type Project } from '../src/index.js';

/** A lamp whose colour is a key of a table, and a wind whose event carries many fields, one of which a binding reads. */
function yard(): Project {
  const fields = Array.from({ length: 40 }, (_, i) => ({ name: `f${i}`, type: 'int' as const }));
  return {
    format: 'oquel.project/1',
    name: 'Yard',
    tables: [{ name: 'Colours', keys: ['red'] }],
    assets: [
      {
        id: 'yard',
        kind: 'scene',
        properties: [{ name: 'colour', type: 'key:Colours', default: 'blue' }],
        events: [{ name: 'onWind', cause: { type: 'code' }, payload: fields }],
        actions: [{ name: 'sway', params: [{ name: 'by', type: 'int' }] }],
        bindings: [
          {
            id: 'sways',
            from: { at: '.', event: 'onWind' },
            to: { at: '.', action: 'sway' },
            args: { by: { payload: 'f30' } },
          },
        ],
      },
    ],
  };
}
const messagesOf = (project: Project, rule: string): string[] =>
  audit(project, { today: '2026-11-30' })
    .findings.filter((f) => f.rule === rule)
    .map((f) => f.message);

/** Whoever has the core as a library may change a document and audit it again, without making another one. */
describe('a document that is changed in place and audited again', () => {
  it('a key that a table gets, and loses', () => {
    const project = yard();
    expect(messagesOf(project, 'dangling-key')).toEqual([
      'the default of colour is "blue", which is not a key of Colours',
    ]);
    project.tables![0].keys.push('blue');
    expect(messagesOf(project, 'dangling-key')).toEqual([]);
    project.tables![0].keys.pop();
    expect(messagesOf(project, 'dangling-key')).toHaveLength(1);
  });
  it.each<[string, (payload: { name: string; type: 'int' | 'string' }[]) => void]>([
    ['renamed', (payload) => (payload[30].name = 'speed')],
    ['of another type', (payload) => (payload[30].type = 'string')],
    ['gone', (payload) => payload.splice(30, 1)],
    ['replaced', (payload) => (payload[30] = { name: 'speed', type: 'int' })],
  ])('a field of many that is %s', (_, change) => {
    const project = yard();
    expect(messagesOf(project, 'payload-mismatch')).toEqual([]);
    change(project.assets[0].events![0].payload as { name: string; type: 'int' }[]);
    expect(messagesOf(project, 'payload-mismatch')).toHaveLength(1);
  });
  it('a field of many that takes the place of another', () => {
    const project = yard();
    messagesOf(project, 'payload-mismatch');
    const payload = project.assets[0].events![0].payload!;
    payload.reverse();
    expect(messagesOf(project, 'payload-mismatch')).toEqual([]);
  });
});
