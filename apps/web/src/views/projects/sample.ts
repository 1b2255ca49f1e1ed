import type { Project } from '@oquel/core';

/** A small game to change: a ferry landing with a bell, a gate and two lamps. */
export function sampleProject(name: string): Project {
  return {
    format: 'oquel.project/1',
    name,
    enums: [{ name: 'Signal', values: ['red', 'green'] }],
    assets: [
      {
        id: 'landing',
        kind: 'scene',
        size: [40, 24],
        placements: [
          { id: 'jetty', asset: 'Jetty', at: [6, 12], entry: true },
          { id: 'bell-1', asset: 'Bell', at: [14, 8] },
          { id: 'gate-1', asset: 'Gate', at: [24, 12] },
          { id: 'lamp-1', asset: 'Lamp', at: [22, 6] },
          { id: 'lamp-2', asset: 'Lamp', at: [22, 18] },
          { id: 'ferry-1', asset: 'Ferry', at: [34, 12] },
        ],
        bindings: [
          {
            id: 'ring-opens',
            from: { at: 'bell-1', event: 'onRung' },
            to: { at: 'gate-1', action: 'open' },
          },
          {
            id: 'open-lights-1',
            from: { at: 'gate-1', event: 'onOpened' },
            to: { at: 'lamp-1', action: 'light' },
            args: { colour: 'green' },
          },
          {
            id: 'open-lights-2',
            from: { at: 'gate-1', event: 'onOpened' },
            to: { at: 'lamp-2', action: 'light' },
            args: { colour: 'green' },
          },
          {
            id: 'boarding-closes',
            from: { at: 'ferry-1', event: 'onBoarded' },
            to: { at: 'gate-1', action: 'close' },
            delay: 2,
          },
        ],
      },
      {
        id: 'Jetty',
        kind: 'prefab',
      },
      {
        id: 'Bell',
        kind: 'prefab',
        events: [{ name: 'onRung', cause: { type: 'use' } }],
      },
      {
        id: 'Gate',
        kind: 'prefab',
        properties: [{ name: 'isOpen', type: 'bool', default: false }],
        events: [{ name: 'onOpened', cause: { type: 'raised' } }],
        actions: [
          { name: 'open', effects: [{ set: 'isOpen', to: true }, { raise: 'onOpened' }] },
          { name: 'close', effects: [{ set: 'isOpen', to: false }] },
        ],
      },
      {
        id: 'Lamp',
        kind: 'prefab',
        properties: [{ name: 'colour', type: 'enum:Signal', default: 'red' }],
        actions: [
          {
            name: 'light',
            params: [{ name: 'colour', type: 'enum:Signal' }],
            effects: [{ set: 'colour', to: { param: 'colour' } }],
          },
        ],
      },
      {
        id: 'Ferry',
        kind: 'prefab',
        area: { rect: [6, 4] },
        events: [{ name: 'onBoarded', cause: { type: 'area-enter' } }],
      },
    ],
  };
}
