import { indexProject, type Asset, type Binding, type Placement, type Project } from '../src/index.js';

export const LAMP: Asset = {
  id: 'Lamp',
  kind: 'prefab',
  area: { circle: 2 },
  properties: [
    { name: 'line', type: 'string', default: 'east', isKey: true },
    { name: 'number', type: 'int', default: 0, unique: true },
    { name: 'lit', type: 'bool', default: false },
  ],
  events: [{ name: 'onLit', cause: { type: 'code' } }],
  actions: [{ name: 'light', effects: [{ spawn: 'Moth' }] }],
  placements: [{ id: 'bulb', asset: 'Bulb' }],
  bindings: [{ id: 'own', from: { at: '.', event: 'onLit' }, to: { at: '.', action: 'light' } }],
};
export const BULB: Asset = {
  id: 'Bulb',
  kind: 'prefab',
  properties: [
    { name: 'watts', type: 'int', default: 40 },
    { name: 'code', type: 'string', default: '', isKey: true },
  ],
};
export const MOTH: Asset = { id: 'Moth', kind: 'prefab' };
export const heard: Binding = {
  id: 'heard',
  from: { channel: 'dusk' },
  to: { at: 'lamp-1', action: 'light' },
};
export const said: Binding = { id: 'said', from: { at: 'lamp-1', event: 'onLit' }, to: { channel: 'dusk' } };
export const scene = (id: string, more: Partial<Asset> = {}): Asset => ({ id, kind: 'scene', ...more });
export const lamp = (more: Partial<Placement> = {}): Placement => ({ id: 'lamp-1', asset: 'Lamp', ...more });
export const quay = (...placements: Placement[]): Asset =>
  scene('quay', { placements, bindings: [said, heard] });
export const project = (assets: Asset[], more: Partial<Project> = {}): Project => ({
  format: 'oquel.project/1',
  name: 'Quay',
  channels: [{ name: 'dusk' }],
  assets: [...assets, LAMP, BULB, MOTH],
  ...more,
});
export const indexOf = (...placements: Placement[]): ReturnType<typeof indexProject> =>
  indexProject(project([quay(...placements)]));
