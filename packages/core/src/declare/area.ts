import type { Area } from '../project/types.js';
import type { Declaration } from '../wireline/declaration.js';

/** What a new prefab senses that says when somebody comes in or leaves. */
export const AREA: Area = { circle: 2 };

/** Whether one of these declarations needs an area. */
export function areas(events: readonly Declaration[]): boolean {
  return events.some(
    (d) => d.kind === 'event' && (d.value.cause.type === 'area-enter' || d.value.cause.type === 'area-leave'),
  );
}
