type Node = Record<string, unknown>;
interface Branch {
  if: { properties: Record<string, { const: string }> };
  then: Node & { properties?: Node };
}

/**
 * A schema whose `if`/`then` for each value of a tag, which editors explain best, is `oneOf`, from which clients get types. The same
 * values are valid. Linear in the schema.
 */
export function withAlternatives(node: unknown): unknown {
  if (Array.isArray(node)) return node.map(withAlternatives);
  if (typeof node !== 'object' || node === null) return node;
  const { allOf } = node as { allOf?: unknown };
  if (Array.isArray(allOf) && allOf.length > 0 && allOf.every(isBranch)) {
    return {
      oneOf: allOf.map(({ if: when, then }) => {
        const own = withAlternatives(then) as Branch['then'];
        return { ...own, properties: { ...own.properties, ...when.properties } };
      }),
    };
  }
  const made = Object.fromEntries(
    Object.entries(node as Node).map(([key, value]) => [key, withAlternatives(value)]),
  );
  // Otherwise an object without properties would be one that has none.
  const isOpen = made.type === 'object' && !('properties' in made) && !('additionalProperties' in made);
  return isOpen ? { ...made, additionalProperties: true } : made;
}
function isBranch(node: unknown): node is Branch {
  return typeof node === 'object' && node !== null && 'if' in node && 'then' in node;
}
