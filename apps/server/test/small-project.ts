import type { Binding, Project } from '@oquel/core';

/** A corner of Veyra: one mast, two brakes, one binding. */
export function smallProject(): Project {
  return {
    format: 'oquel.project/1',
    name: 'Corner of Veyra',
    assets: [
      {
        id: 'pylon-ridge',
        kind: 'scene',
        size: [40, 20],
        placements: [
          { id: 'mast-1', asset: 'WindMast', at: [4, 5] },
          { id: 'brake-1', asset: 'TrackBrake', at: [20, 5] },
          { id: 'brake-2', asset: 'TrackBrake', at: [30, 5] },
        ],
        bindings: [engage('gust-1', 'brake-1')],
      },
      {
        id: 'WindMast',
        kind: 'prefab',
        events: [{ name: 'onGust', cause: { type: 'code' }, payload: [{ name: 'speed', type: 'float' }] }],
      },
      {
        id: 'TrackBrake',
        kind: 'prefab',
        actions: [{ name: 'engage', params: [{ name: 'force', type: 'float' }] }],
      },
    ],
  };
}

export function engage(id: string, brake: string): Binding {
  return {
    id,
    from: { at: 'mast-1', event: 'onGust' },
    to: { at: brake, action: 'engage' },
    args: { force: { payload: 'speed' } },
  };
}
