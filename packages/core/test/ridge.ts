import {
  expand,
  indexProject,
  readProject,
  rehearse,
  type Project,
  type Step,
  type TraceLine,
  type TraceRecord,
} from '../src/index.js';

export type Draft = Record<string, unknown>;

/** A ridge with a mast, a brake, a horn and whatever a case adds; read as any document is. */
export function ridge(bindings: Draft[], steps: Step[], more: Draft = {}, assets: Draft[] = []): Project {
  const { project } = readProject({
    format: 'oquel.project/1',
    name: 'Ridge',
    assets: [
      {
        id: 'ridge',
        kind: 'scene',
        placements: [
          { id: 'mast', asset: 'Mast' },
          { id: 'brake', asset: 'Brake' },
          { id: 'snug', asset: 'Brake', asleep: true },
        ],
        bindings,
      },
      {
        id: 'Mast',
        kind: 'prefab',
        tags: ['tall'],
        properties: [{ name: 'line', type: 'int', default: 1 }],
        events: [
          { name: 'onGust', cause: { type: 'code' }, payload: [{ name: 'force', type: 'float' }] },
          { name: 'onOnce', cause: { type: 'code' }, limit: 1 },
          { name: 'onNear', cause: { type: 'area-enter', activators: ['#crew', 'Brake'] } },
          { name: 'onBarred', cause: { type: 'code' }, delivery: { send: 'nobody' } },
          {
            name: 'onSteer',
            cause: { type: 'use' },
            delivery: { send: { only: ['operator'] }, to: 'raiser' },
          },
        ],
        actions: [{ name: 'fall', effects: [{ destroy: true }] }],
      },
      {
        id: 'Brake',
        kind: 'prefab',
        properties: [
          { name: 'force', type: 'int', default: 0 },
          { name: 'held', type: 'bool', default: false },
        ],
        events: [{ name: 'onHeld', cause: { type: 'change', property: 'held' } }],
        actions: [
          {
            name: 'engage',
            params: [{ name: 'force', type: 'int' }],
            effects: [{ set: 'force', to: { param: 'force' } }],
          },
          { name: 'hold', effects: [{ toggle: 'held' }] },
          { name: 'rouse', whileAsleep: true, effects: [{ wake: true }] },
        ],
      },
      ...assets,
    ],
    rehearsals: [{ name: 'try', steps }],
    ...more,
  });
  return project;
}
export function lines(project: Project): TraceLine[] {
  const out: TraceLine[] = [];
  rehearse(expand(indexProject(project)), project.rehearsals!, (line) => out.push(structuredClone(line)));
  return out;
}
export function records(project: Project): TraceRecord[] {
  return lines(project).filter((l): l is TraceRecord => 'n' in l);
}
export function verdict(project: Project): Extract<TraceLine, { kind: 'verdict' }> {
  return lines(project).find((l) => l.kind === 'verdict')!;
}
export const raise = (event: string, at = 0, more: Draft = {}): Step => ({
  at,
  raise: { at: 'ridge:mast', event, ...more },
});
export const gust = (to: Draft, more: Draft = {}): Draft => ({
  id: 'b',
  from: { at: 'mast', event: 'onGust' },
  to,
  ...more,
});
