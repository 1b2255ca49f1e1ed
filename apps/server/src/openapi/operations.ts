import type { OpenAPIObject } from '@nestjs/swagger';
import type { Rule } from '../team/roles.js';

/** An operation of the description, with what its path and method tell. */
export interface Operation {
  path: string;
  method: string;
  needs: Rule;
  it: {
    requestBody?: { description?: string; content: Record<string, { schema: object }> };
    responses: Record<string, { description: string; content?: Record<string, { schema: object }> }>;
    security?: Record<string, string[]>[];
    parameters?: object[];
  };
}

export function* eachOperation(api: OpenAPIObject): Generator<Operation> {
  for (const [path, methods] of Object.entries(api.paths)) {
    for (const [method, it] of Object.entries(methods as Record<string, Operation['it']>)) {
      const { 'x-oquel-needs': needs } = it as unknown as { 'x-oquel-needs': Partial<Rule> };
      yield { path, method, it, needs: { who: 'anybody', scope: null, only: null, ...needs } };
    }
  }
}
