import type { EventQuestion } from './blocks.js';
import type { AuditGround } from './ground.js';

/** Bound events of cause `raised` that no effect of their asset raises. */
export function neverRaisedNodes(ctx: AuditGround): number[] {
  const question: EventQuestion = {
    name: 'never-raised',
    concerns: (event, { effects }) =>
      event.cause.type === 'raised' &&
      !effects.some(({ effect }) => 'raise' in effect && effect.raise === event.name),
    test: () => true,
  };
  const nodes: number[] = [];
  ctx.eachSuspect(question, (node) => nodes.push(node));
  return nodes;
}
