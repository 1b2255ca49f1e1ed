import { byCodeUnits } from '../project/canonical.js';
import type { Field, Project, Type } from '../project/types.js';

/** A JSON Schema of one value. */
export type ValueSchema = Record<string, unknown>;

/**
 * What every event, action and channel of a project carries, as JSON Schema (draft 2020-12): in `$defs`, under `Asset.event`,
 * `Asset.action` and `#channel`. Linear in declarations.
 */
export function namesJsonSchema(project: Project, hash: string): ValueSchema {
  const definitions: [string, ValueSchema][] = [
    ...(project.enums ?? []).map((e): [string, ValueSchema] => [`enum:${e.name}`, { enum: e.values }]),
    ...(project.tables ?? []).map((t): [string, ValueSchema] => [`key:${t.name}`, { enum: t.keys }]),
    ...(project.channels ?? []).map((c): [string, ValueSchema] => [`#${c.name}`, fieldsSchema(c.payload)]),
    ...project.assets.flatMap((a) => [
      ...(a.events ?? []).map((e): [string, ValueSchema] => [`${a.id}.${e.name}`, fieldsSchema(e.payload)]),
      ...(a.actions ?? []).map((b): [string, ValueSchema] => [`${a.id}.${b.name}`, fieldsSchema(b.params)]),
    ]),
  ];
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    $id: `urn:oquel:names:${hash}`,
    title: project.name,
    description: 'Payloads of events and channels, parameters of actions: one definition each.',
    $defs: Object.fromEntries(definitions.sort(([a], [b]) => byCodeUnits(a, b))),
  };
}

/** Fields as an object; `ref` says where an enum or a key table is defined. */
export function fieldsSchema(
  fields: readonly Field[] = [],
  ref: (name: string) => string = (name) => `#/$defs/${encodeURIComponent(name)}`,
): ValueSchema {
  const required = fields.filter((f) => !f.optional).map((f) => f.name);
  return {
    type: 'object',
    properties: Object.fromEntries(fields.map((f) => [f.name, typeSchema(f.type, ref)])),
    ...(required.length > 0 ? { required } : {}),
    additionalProperties: false,
  };
}
function typeSchema(type: Type, ref: (name: string) => string): ValueSchema {
  if (type === 'bool') return { type: 'boolean' };
  if (type === 'int') return { type: 'integer' };
  if (type === 'float') return { type: 'number' };
  if (type === 'vec2') return { type: 'array', items: { type: 'number' }, minItems: 2, maxItems: 2 };
  if (type.startsWith('enum:') || type.startsWith('key:')) return { $ref: ref(type) };
  return type === 'instance'
    ? { type: 'string', description: 'The address of an instance.' }
    : { type: 'string' };
}
