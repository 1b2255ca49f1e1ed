import { fieldNamed } from '../project/fields.js';
import { argFault, argFaultText, type ArgScope } from '../project/arg-types.js';
import type { AssetIndex } from '../project/index-project.js';
import { valuesOfType } from '../project/type-values.js';
import type { Arg, Field, Type, Value } from '../project/types.js';
import { printArg } from './print.js';

export type ParsedArg = { arg: Arg } | { error: string };

/**
 * Reads an argument as it is typed for a place of that type: `$speed` of the payload, `@line` of the sender,
 * `sender`, each with `as string` if wanted, or a literal (texts may go without quotes).
 */
export function parseArg(text: string, wanted: Type, scope: ArgScope): ParsedArg {
  const trimmed = text.trim();
  const reference = /^([$@])([A-Za-z_][A-Za-z0-9_-]*)(\s+as\s+string)?$/.exec(trimmed);
  let arg: Arg;
  if (reference) {
    const as = reference[3] ? ({ as: 'string' } as const) : {};
    arg = reference[1] === '$' ? { payload: reference[2], ...as } : { property: reference[2], ...as };
  } else if (trimmed === 'sender' && wanted === 'instance') {
    arg = { sender: true };
  } else {
    const literal = parseLiteral(trimmed, wanted);
    if (literal === undefined) return { error: `expected ${wanted}, found ${JSON.stringify(trimmed)}` };
    arg = literal;
  }
  const fault = argFault(scope, arg, wanted);
  return fault ? { error: argFaultText(fault, wanted) } : { arg };
}

function parseLiteral(text: string, wanted: Type): Value | undefined {
  const textual =
    wanted === 'string' || wanted === 'instance' || wanted.startsWith('enum:') || wanted.startsWith('key:');
  if (textual) return text.startsWith('"') ? quoted(text) : text === '' ? undefined : text;
  if (wanted === 'bool') return text === 'true' ? true : text === 'false' ? false : undefined;
  if (wanted === 'vec2') {
    const parts = /^\[?\s*([^,\s]+)\s*,\s*([^,\s\]]+)\s*\]?$/.exec(text);
    const [x, y] = parts ? [Number(parts[1]), Number(parts[2])] : [NaN, NaN];
    return Number.isFinite(x) && Number.isFinite(y) ? [x, y] : undefined;
  }
  const n = text === '' ? NaN : Number(text);
  return Number.isFinite(n) ? n : undefined;
}
function quoted(text: string): string | undefined {
  try {
    const value = JSON.parse(text) as unknown;
    return typeof value === 'string' ? value : undefined;
  } catch {
    return undefined;
  }
}

/** What could stand at a place of that type, best first: the payload, the sender's properties, known literals. */
export function suggestArgs(wanted: Type, scope: ArgScope): string[] {
  const { index, payload, reader } = scope;
  const fits = (arg: Arg): boolean => argFault(scope, arg, wanted) === null;
  const references: Arg[] = [
    ...payload.map((f) => ({ payload: f.name })),
    ...(reader?.properties ?? []).map((p) => ({ property: p.name })),
    { sender: true },
  ];
  const literals = valuesOfType(index, wanted).map(String);
  const asText: Arg[] =
    wanted === 'string'
      ? payload.filter((f) => !fits({ payload: f.name })).map((f) => ({ payload: f.name, as: 'string' }))
      : [];
  const usable = [...references.filter(fits), ...asText];
  return [...usable.map(printArg), ...literals];
}

/** The argument that most likely belongs to a required parameter: the payload field of its name, or the only one that fits. */
export function guessArg(param: Field, scope: ArgScope): string {
  const fitting = scope.payload.filter((f) => argFault(scope, { payload: f.name }, param.type) === null);
  const best =
    fieldNamed(fitting, param.name) ?? (fitting.length === 1 && !param.optional ? fitting[0] : null);
  return best ? `$${best.name}` : '';
}

/**
 * The key property by which a selection most likely belongs to who reads it: one that both have under the same name and
 * type; null if there is none.
 */
export function guessMatch(selected: AssetIndex, reader: AssetIndex | null): string | null {
  const shared = selected.properties.find((p) => {
    const own = reader?.properties[reader.propertyAt.get(p.name) ?? -1];
    return p.isKey === true && own?.type === p.type;
  });
  return shared?.name ?? null;
}
