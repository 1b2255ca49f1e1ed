/** Parts of a JSON Schema that explain themselves. */
export const text = (description: string): object => ({ type: 'string', description });
export const list = (items: object, description: string): object => ({ type: 'array', items, description });
export const column = (description: string): object => list({ type: 'integer' }, description);
export const only = (value: unknown, description: string): object => ({ const: value, description });
export const micros = (description: string): object => ({ type: 'integer', minimum: 0, description });
export const record = (
  required: readonly string[],
  properties: Record<string, object>,
  description = '',
): object => ({
  type: 'object',
  ...(description === '' ? {} : { description }),
  required,
  properties,
  additionalProperties: false,
});
export const ref = (name: string): object => ({ $ref: `#/$defs/${name}` });
