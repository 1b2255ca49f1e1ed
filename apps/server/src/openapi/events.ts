import type { OpenAPIObject } from '@nestjs/swagger';
import { eachOperation } from './operations.js';
import { refTo } from './formats.js';

const ofProject = {
  type: 'object',
  properties: { project: { type: 'string', format: 'uuid' } },
  required: ['project'],
};

/** The events of a stream: the name of each, when it comes, and what its data are (JSON). */
const EVENTS: Record<string, { when: string; data: object }> = {
  version: {
    when: 'first of all, and whenever the project has been edited',
    data: refTo('VersionEventDto'),
  },
  presence: {
    when: 'who has the project open: everybody at first, then what has changed',
    data: refTo('PresenceEventDto'),
  },
  builds: { when: 'a build was frozen, imported or judged', data: ofProject },
  plays: { when: 'a play was judged, or went', data: ofProject },
  gone: { when: 'there is no such project, or nobody may see it here any more', data: ofProject },
  still: { when: 'nothing has happened for some seconds; the stream lives', data: { type: 'object' } },
};

/** Says what comes over the stream of events. */
export function describeEvents(api: OpenAPIObject): void {
  const schemas = api.components!.schemas as Record<string, object>;
  schemas.Event = {
    description: 'One event of the stream, as its two fields: `event` is the name, `data` is JSON.',
    oneOf: Object.entries(EVENTS).map(([name, { when, data }]) => ({
      title: name,
      description: when,
      type: 'object',
      properties: { event: { const: name }, data },
      required: ['event', 'data'],
    })),
  };
  for (const { path, method, it } of eachOperation(api)) {
    if (path !== '/api/live' || method !== 'get') continue;
    it.responses['200'] = {
      description: 'Server-sent events, until either side ends them',
      content: { 'text/event-stream': { schema: refTo('Event') } },
    };
  }
}
