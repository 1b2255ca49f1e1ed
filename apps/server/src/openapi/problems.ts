import type { OpenAPIObject } from '@nestjs/swagger';
import { PROBLEM_TYPES } from '../http/problem-types.js';
import type { Operation } from './operations.js';
import { refTo } from './formats.js';

const TYPES = Object.entries(
  PROBLEM_TYPES as Record<string, { status: number | readonly number[]; what: string }>,
);
/** What any operation may answer: what is asked of its sender, and what befalls a server. */
const ALWAYS = [403, 421, 429, 500, 503];

/** Adds every problem that an operation may answer. */
export function describeProblems({ path, method, needs, it }: Operation): void {
  const statuses = new Set(ALWAYS);
  if (needs.who !== 'anybody') statuses.add(401);
  if (path.includes('{')) statuses.add(404).add(410);
  if (method !== 'get') statuses.add(400).add(409);
  if (it.parameters && it.parameters.length > 0) statuses.add(400);
  if (it.requestBody) for (const status of [413, 415, 422]) statuses.add(status);
  for (const status of [...statuses].sort((a, b) => a - b)) {
    it.responses[status] = {
      description: typesWith(status)
        .map((type) => `\`${type}\``)
        .join(', '),
      content: { 'application/problem+json': { schema: refTo('Problem') } },
    };
  }
}
function typesWith(status: number): string[] {
  return TYPES.filter(([, kind]) => [kind.status].flat().includes(status)).map(([type]) => type);
}

describeProblems.schema = (api: OpenAPIObject): void => {
  (api.components!.schemas as Record<string, object>).Problem = {
    description:
      'What went wrong (RFC 9457). `type` is stable; some types carry more, which the page on problems names.',
    type: 'object',
    required: ['type', 'title', 'status', 'detail', 'request'],
    properties: {
      type: {
        oneOf: TYPES.map(([type, { what }]) => ({ const: `urn:oquel:problem:${type}`, description: what })),
      },
      title: { type: 'string' },
      status: { type: 'integer' },
      detail: { type: 'string', description: 'What, where, and what to do.' },
      request: { type: 'string', description: 'Names the request in the server’s log.' },
    },
  };
};
