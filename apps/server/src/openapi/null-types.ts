type Node = Record<string, unknown>;

/** The same description with `nullable`, which OpenAPI 3.1 no longer has, as JSON Schema says it. Linear in the description. */
export function withNullTypes<T>(description: T): T {
  return turned(description) as T;
}
function turned(node: unknown): unknown {
  if (Array.isArray(node)) return node.map(turned);
  if (typeof node !== 'object' || node === null) return node;
  const { nullable, ...rest } = Object.fromEntries(
    Object.entries(node as Node).map(([key, value]) => [key, turned(value)]),
  );
  if (nullable !== true) return nullable === undefined ? rest : { ...rest, nullable };
  const { type, enum: values, description, ...other } = rest;
  const said = description === undefined ? {} : { description };
  // A name that stands for another schema.
  if (typeof type !== 'string') return { ...said, anyOf: [other, { type: 'null' }] };
  return {
    ...said,
    ...other,
    type: [type, 'null'],
    ...(Array.isArray(values) ? { enum: [...(values as unknown[]), null] } : {}),
  };
}
