import {
  declareFor,
  indexProject,
  parseWireLine,
  type LineBinding,
  type Project,
  type Wish,
} from '../src/index.js';

export const EMPTY: Project = {
  format: 'oquel.project/1',
  name: 'Mill',
  assets: [{ id: 'yard', kind: 'scene', size: [60, 40] }],
};
/** A yard in which a lamp stands already, that can be lit in a colour. */
export const LIT: Project = {
  ...EMPTY,
  channels: [{ name: 'night', payload: [{ name: 'by', type: 'string' }] }],
  assets: [
    { ...EMPTY.assets[0], placements: [{ id: 'lamp-1', asset: 'Lamp', at: [20, 20] }] },
    {
      id: 'Lamp',
      kind: 'prefab',
      properties: [{ name: 'side', type: 'string', default: 'east', isKey: true }],
      events: [{ name: 'onLit', cause: { type: 'raised' }, payload: [{ name: 'glow', type: 'int' }] }],
      actions: [
        { name: 'light', params: [{ name: 'colour', type: 'string' }], effects: [{ raise: 'onLit' }] },
      ],
    },
  ],
};
export function bindings(...lines: string[]): LineBinding[] {
  return lines.map((line) => {
    const read = parseWireLine(line);
    if ('fault' in read) throw new Error(`${line}: ${read.fault.message}`);
    return read.binding;
  });
}
export function declared(
  project: Project,
  lines: string[],
  wishes: [string, Wish][] = [],
): ReturnType<typeof declareFor> {
  const index = indexProject(project);
  return declareFor(index, index.assets[0], bindings(...lines), new Map(wishes));
}
