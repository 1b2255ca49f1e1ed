import type { Project } from '../project/types.js';
import { fieldsSchema, type ValueSchema } from './json-schema.js';

/**
 * A project's events, actions and channels as AsyncAPI 3: a game sends the events that it raises and receives the actions that it
 * performs; `{instance}` is the address of an instance. Linear in declarations.
 */
export function asyncApi(project: Project, hash: string): ValueSchema {
  const channels: Record<string, ValueSchema> = {};
  const operations: Record<string, ValueSchema> = {};
  const add = (
    id: string,
    address: string,
    action: 'send' | 'receive',
    { name, payload, about }: { name: string; payload: ValueSchema; about: string | undefined },
  ): void => {
    const byInstance = address.includes('{instance}');
    channels[id] = {
      address,
      ...(about === undefined ? {} : { description: about }),
      ...(byInstance ? { parameters: { instance: { description: 'The address of an instance.' } } } : {}),
      messages: { [name]: { name, payload } },
    };
    operations[`${action}_${id}`] = {
      action,
      channel: { $ref: `#/channels/${id}` },
      messages: [{ $ref: `#/channels/${id}/messages/${name}` }],
    };
  };
  const ref = (name: string): string => `#/components/schemas/${schemaId(name)}`;
  for (const asset of project.assets) {
    for (const e of asset.events ?? []) {
      add(`${asset.id}_event_${e.name}`, `{instance}/event/${e.name}`, 'send', {
        name: e.name,
        payload: fieldsSchema(e.payload, ref),
        about: e.note,
      });
    }
    for (const a of asset.actions ?? []) {
      add(`${asset.id}_action_${a.name}`, `{instance}/action/${a.name}`, 'receive', {
        name: a.name,
        payload: fieldsSchema(a.params, ref),
        about: a.note,
      });
    }
  }
  for (const c of project.channels ?? []) {
    add(`channel_${c.name}`, `channel/${c.name}`, 'send', {
      name: c.name,
      payload: fieldsSchema(c.payload, ref),
      about: c.note,
    });
  }
  const schemas = Object.fromEntries([
    ...(project.enums ?? []).map((e) => [schemaId(`enum:${e.name}`), { type: 'string', enum: e.values }]),
    ...(project.tables ?? []).map((t) => [schemaId(`key:${t.name}`), { type: 'string', enum: t.keys }]),
  ]) as Record<string, ValueSchema>;
  return {
    asyncapi: '3.0.0',
    info: {
      title: project.name,
      version: hash.slice(0, 12),
      description: 'Events that the game raises, actions that it performs, and channels.',
    },
    defaultContentType: 'application/json',
    channels,
    operations,
    components: { schemas },
  };
}
/** Names of components are letters, digits, `.`, `_` and `-`. */
function schemaId(name: string): string {
  return name.replace(':', '.');
}
