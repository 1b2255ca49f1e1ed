import type { OpenAPIObject } from '@nestjs/swagger';
import { changeJsonSchema, manifestJsonSchema, projectJsonSchema } from '@oquel/core';
import { withAlternatives } from './alternatives.js';
import { eachOperation } from './operations.js';

/** The formats that the core defines, by their names in the description. */
export const FORMATS = {
  Project: projectJsonSchema,
  Declarations: manifestJsonSchema,
  Change: changeJsonSchema,
};
export const refTo = (name: string): { $ref: string } => ({ $ref: `#/components/schemas/${name}` });

/** Puts the formats of documents, manifests and changes in, and says where each is sent and answered. */
export function describeFormats(api: OpenAPIObject): void {
  const schemas = api.components!.schemas as Record<string, object>;
  for (const [name, schema] of Object.entries(FORMATS)) {
    const { $schema: _dialect, $id: _id, $defs = {}, ...rest } = schema() as Record<string, unknown>;
    schemas[name] = withComponentRefs(withAlternatives(rest)) as object;
    for (const [part, definition] of Object.entries($defs as object)) {
      schemas[componentOf(part)] = withComponentRefs(withAlternatives(definition)) as object;
    }
  }
  for (const { path, it } of eachOperation(api)) {
    const { description = '', content = {} } = it.requestBody ?? {};
    const sent = /oquel\.project\/1/.test(description)
      ? 'Project'
      : /oquel\.declarations\/1/.test(description)
        ? 'Declarations'
        : null;
    if (sent !== null) for (const type of Object.values(content)) type.schema = refTo(sent);
    if (!path.endsWith('/document')) continue;
    for (const type of Object.values(it.responses['200']?.content ?? {})) type.schema = refTo('Project');
  }
  for (const dto of ['EditDto', 'LoggedEditDto']) itemsOf(schemas, dto, 'changes', refTo('Change'));
  const { properties } = schemas.OpenedDto as { properties: Record<string, object> };
  properties.document = refTo('Project');
}
/** The component that a definition of a format becomes: `binding` is `FormatBinding`. */
function componentOf(definition: string): string {
  return `Format${definition[0].toUpperCase()}${definition.slice(1)}`;
}
/** A schema that refers to components where it referred to its own definitions. Linear. */
function withComponentRefs(node: unknown): unknown {
  if (Array.isArray(node)) return node.map(withComponentRefs);
  if (typeof node !== 'object' || node === null) return node;
  return Object.fromEntries(
    Object.entries(node).map(([key, value]) => [
      key,
      key === '$ref' && typeof value === 'string'
        ? value.replace(/^#\/\$defs\/(.*)$/, (_, name: string) => `#/components/schemas/${componentOf(name)}`)
        : withComponentRefs(value),
    ]),
  );
}
function itemsOf(schemas: Record<string, object>, dto: string, property: string, items: object): void {
  const { properties } = schemas[dto] as { properties: Record<string, object> };
  properties[property] = { ...properties[property], items };
}
