import { indexProject, type Project } from '../src/index.js';

/** A player who acts, a narrator with a line for each action, a gate that counts and lets the count lapse. */
export const project: Project = {
  format: 'oquel.project/1',
  name: 'Courtyard',
  enums: [{ name: 'Act', values: ['jump', 'duck', 'wave'] }],
  channels: [{ name: 'acts', payload: [{ name: 'act', type: 'enum:Act' }] }],
  assets: [
    {
      id: 'yard',
      kind: 'scene',
      placements: [
        { id: 'player', asset: 'Player' },
        { id: 'narrator', asset: 'Narrator' },
        { id: 'gate', asset: 'Gate' },
      ],
      bindings: [
        {
          id: 'jumped',
          from: { at: 'player', event: 'onActed' },
          to: { at: 'narrator', action: 'speak' },
          args: { line: 'up' },
          if: [
            { payload: 'act', is: 'jump' },
            { property: 'calm', is: false },
          ],
          limit: 1,
        },
        {
          id: 'counted',
          from: { at: 'player', event: 'onActed' },
          to: { at: 'gate', action: 'count' },
          if: [{ payload: 'act', is: { oneOf: ['jump', 'wave'] } }],
        },
        {
          id: 'told',
          from: { at: 'player', event: 'onActed' },
          to: { channel: 'acts' },
          args: { act: { payload: 'act' } },
        },
        {
          id: 'heard',
          from: { channel: 'acts' },
          to: { at: 'narrator', action: 'speak' },
          args: { line: 'heard' },
          if: [{ payload: 'act', is: { not: 'jump' } }],
        },
      ],
    },
    {
      id: 'Player',
      kind: 'prefab',
      properties: [{ name: 'calm', type: 'bool', default: false }],
      events: [{ name: 'onActed', cause: { type: 'code' }, payload: [{ name: 'act', type: 'enum:Act' }] }],
      actions: [{ name: 'rest', effects: [{ set: 'calm', to: true }] }],
    },
    {
      id: 'Narrator',
      kind: 'prefab',
      actions: [{ name: 'speak', params: [{ name: 'line', type: 'string' }] }],
    },
    {
      id: 'Gate',
      kind: 'prefab',
      properties: [
        { name: 'n', type: 'int', default: 0 },
        { name: 'isOpen', type: 'bool', default: false },
      ],
      events: [{ name: 'onLapsed', cause: { type: 'raised' } }],
      actions: [
        {
          name: 'count',
          effects: [
            { add: 'n', by: 1 },
            { raise: 'onLapsed', delay: 2, restart: true },
            { set: 'isOpen', to: true, when: { property: 'n', is: { atLeast: 3 } } },
          ],
        },
        { name: 'lapse', effects: [{ set: 'n', to: 0 }] },
      ],
      bindings: [{ id: 'lapse', from: { at: '.', event: 'onLapsed' }, to: { at: '.', action: 'lapse' } }],
    },
  ],
};
export const index = indexProject(project);
