import { fieldNamed } from '../project/fields.js';
import { assetAtPath, reachableFrom } from '../edit/wiring.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { valuesOfType } from '../project/type-values.js';
import type { Binding, Field, Type } from '../project/types.js';
import { suggestArgs } from './argument.js';
import { bindingEnds, type BindingEnds } from '../edit/binding-ends.js';
import { TEST_SIGNS } from './conditions.js';
import { printName, printPathDot } from './names.js';
import { OPTIONS } from './options.js';
import { wantedAt } from './parse.js';
import { printFrom, printTo, printValue } from './print.js';
import type { Want } from './scanner.js';

/** What a line can go on with: the text from `at` up to the end of the beginning is replaced by one of them. */
export interface Completions {
  at: number;
  options: Completion[];
}
export interface Completion {
  text: string;
  /** What it is, in a word. */
  about: string;
  /** The line can be taken as it is; this is only how it could go on. */
  isMore?: boolean;
}

/** What is written behind a completion that was taken: a blank, unless it goes on right there. */
export function afterCompletion({ text, isMore }: Completion): '' | ' ' {
  return isMore || /[.=\s]$|^#/.test(text) ? '' : ' ';
}

const MOST = 50;

/**
 * Completes the beginning of a wire line of an owner: words of the notation, and names that are there. Those that begin
 * with what is typed come before those that contain it. Cost: the names that could stand there.
 */
export function completeWireLine(index: ProjectIndex, owner: AssetIndex, beginning: string): Completions {
  const { want, at, before } = wantedAt(beginning);
  const typed = beginning.slice(at).trimStart();
  const start = beginning.length - typed.length;
  const all = [...candidates(index, owner, want, before)];
  const text = typed.toLowerCase();
  const starting: Completion[] = [];
  const within: Completion[] = [];
  for (const c of all) {
    const place = c.text.toLowerCase().indexOf(text);
    if (place === 0) starting.push(c);
    else if (place > 0) within.push(c);
  }
  const options = [...starting, ...within].filter((c) => c.text !== typed).slice(0, MOST);
  return { at: start, options };
}

/** The same behind `if`, for a binding that is there. */
export function completeConditions(
  index: ProjectIndex,
  owner: AssetIndex,
  { from, to }: Pick<Binding, 'from' | 'to'>,
  beginning: string,
): Completions {
  const before = `when ${printFrom({ from })} do ${printTo({ to })} if `;
  const { at, options } = completeWireLine(index, owner, before + beginning);
  return { at: at - before.length, options };
}

function* candidates(
  index: ProjectIndex,
  owner: AssetIndex,
  want: Want,
  before: ReturnType<typeof wantedAt>['before'],
): Iterable<Completion> {
  const { project, assets } = index;
  const ends = bindingEnds(index, owner, before);
  switch (want.kind) {
    case 'word':
      for (const word of want.words) yield { text: word, about: '' };
      return;
    case 'sender':
    case 'receiver': {
      const has = (asset: AssetIndex): number =>
        want.kind === 'sender' ? asset.events.length : asset.actions.length;
      for (const thing of reachableFrom(index, owner)) {
        if (has(thing.asset) > 0) yield { text: printPathDot(thing.path), about: thing.asset.decl.id };
      }
      if (want.kind === 'receiver') yield { text: 'every ', about: 'all of one prefab or widget' };
      for (const { name } of project.channels ?? []) yield { text: `#${printName(name)}`, about: 'channel' };
      return;
    }
    case 'event':
      for (const e of assetAtPath(index, owner, want.at)?.events ?? []) {
        yield { text: printName(e.name), about: e.cause.type };
      }
      return;
    case 'action':
      yield* actions(assetAtPath(index, owner, want.at));
      return;
    case 'selected-action':
      yield* actions(assets[index.assetAt.get(want.asset) ?? -1]);
      return;
    case 'channel':
      for (const { name } of project.channels ?? []) yield { text: printName(name), about: 'channel' };
      return;
    case 'key': {
      const reader = ends.keyReader;
      for (const p of reader?.properties ?? []) {
        if (p.isKey === true) yield { text: `@${printName(p.name)}`, about: `key of ${reader!.decl.id}` };
      }
      return;
    }
    case 'asset':
      for (const { decl } of assets) {
        if (decl.kind !== 'scene') yield { text: printName(decl.id), about: decl.kind };
      }
      return;
    case 'property':
      for (const p of assets[index.assetAt.get(want.asset) ?? -1]?.properties ?? []) {
        yield { text: `${printName(p.name)} = `, about: p.type };
      }
      for (const text of ['in project', 'with spawned', 'first only', 'all']) yield { text, about: '' };
      return;
    case 'param': {
      const given = new Set(Object.keys(before.args ?? {}));
      for (const p of ends.params ?? []) {
        if (!given.has(p.name)) yield { text: `${printName(p.name)} = `, about: paramText(p) };
      }
      return;
    }
    case 'argument': {
      const type = fieldNamed(ends.params ?? undefined, want.param)?.type;
      if (!type) return;
      const scope = { index, payload: ends.payload ?? [], reader: ends.reader };
      for (const text of suggestArgs(type, scope)) {
        yield { text: /^[$@]|^(sender|true|false)$/.test(text) ? text : printValue(text), about: type };
      }
      return;
    }
    case 'condition': {
      const asked = [
        ...(ends.payload ?? []).map((f) => ({ name: `$${printName(f.name)}`, type: f.type })),
        ...(ends.reader?.properties ?? []).map((p) => ({ name: `@${printName(p.name)}`, type: p.type })),
      ];
      for (const { name, type } of asked) yield { text: `${name} `, about: type };
      // What has but few values is asked in one go.
      for (const { name, type } of asked) {
        for (const v of valuesOfType(index, type))
          yield { text: `${name} = ${JSON.stringify(v)}`, about: type };
      }
      return;
    }
    case 'test': {
      const type = typeAsked(ends, want.of);
      const signs = type === 'int' || type === 'float' ? TEST_SIGNS : (['=', '!=', 'in ('] as const);
      for (const sign of signs) yield { text: /\w/.test(sign) ? sign : `${sign} `, about: type ?? '' };
      return;
    }
    case 'asked': {
      const type = typeAsked(ends, want.of);
      for (const v of type ? valuesOfType(index, type) : []) {
        yield { text: typeof v === 'string' ? printName(v) : String(v), about: type! };
      }
      return;
    }
    case 'option':
      for (const text of OPTIONS) yield { text, about: '' };
      return;
    case 'text':
  }
}

/** The type of what `$field` or `@property` names. */
function typeAsked({ payload, reader }: BindingEnds, of: string): Type | undefined {
  const name = of.slice(1);
  if (of.startsWith('$')) return fieldNamed(payload ?? undefined, name)?.type;
  return reader?.properties[reader.propertyAt.get(name) ?? -1]?.type;
}

function* actions(asset: AssetIndex | null | undefined): Iterable<Completion> {
  for (const { name, params = [] } of asset?.actions ?? []) {
    yield { text: printName(name), about: params.map(paramText).join(', ') };
  }
}
function paramText(p: Field): string {
  return `${p.name}: ${p.type}${p.optional ? ', may be left out' : ''}`;
}
