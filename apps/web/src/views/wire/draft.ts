import {
  conditionFaults,
  freeBindingId,
  guessArg,
  parseArg,
  parseConditions,
  printArg,
  printConditions,
  type Arg,
  type ArgScope,
  type AssetIndex,
  type Binding,
  type ChangeSet,
  type Condition,
  type Field,
  type KeyExpr,
  type SelectionTarget,
  own,
  put,
} from '@oquel/core';
import { EVERY } from './candidates.js';

/** Arguments and options of a binding as they stand in the fields, still as text. */
export interface Draft {
  args: Readonly<Record<string, string>>;
  /** Of a publication; empty for none. */
  key: string;
  limit: string;
  delay: string;
  /** What it asks before it acts, as a line writes it behind `if`. */
  asks: string;
  which: Which;
  how: How;
}
/** What narrows `every …`. */
export interface Which {
  /** A property that must be equal to something; empty for none, `all` for every one on purpose. */
  match: string;
  equals: string;
  within: 'asset' | 'project';
  first: boolean;
  spawned: boolean;
}
/** What else can be said of a binding. */
export interface How {
  off: boolean;
  code: boolean;
  bind: 'load' | 'start';
  release: 'own' | 'all' | 'never';
  note: string;
}
const ANY: Which = { match: '', equals: '', within: 'asset', first: false, spawned: false };
const USUAL: How = { off: false, code: false, bind: 'load', release: 'own', note: '' };
export const EMPTY_DRAFT: Draft = {
  args: {},
  key: '',
  limit: '',
  delay: '',
  asks: '',
  which: ANY,
  how: USUAL,
};

export interface CheckedDraft {
  args: Record<string, Arg>;
  key?: KeyExpr;
  limit?: number;
  delay?: number;
  asks: Condition[];
  /** What stands in the target of `every …` besides asset and action. */
  selection: Pick<SelectionTarget, 'match' | 'within' | 'pick' | 'spawned'>;
  how: How;
  /** By the field's name: a parameter, or `key`, `limit`, `delay`, `asks`. */
  faults: ReadonlyMap<string, string>;
}

/** The fields as they are filled at first: what most likely belongs to each parameter. */
export function guessDraft(params: readonly Field[], scope: ArgScope, from: Draft = EMPTY_DRAFT): Draft {
  const args = Object.fromEntries(params.map((p) => [p.name, from.args[p.name] ?? guessArg(p, scope)]));
  return { ...from, args };
}
export function draftOf(binding: Binding, params: readonly Field[]): Draft {
  const names = new Set([...params.map((p) => p.name), ...Object.keys(binding.args ?? {})]);
  const args = Object.fromEntries(
    [...names].map((n) => [n, binding.args?.[n] === undefined ? '' : argText(binding.args[n])]),
  );
  const key =
    'channel' in binding.to ? binding.to.key : 'channel' in binding.from ? binding.from.key : undefined;
  return {
    args,
    key: key === undefined ? '' : argText(key),
    limit: binding.limit === undefined ? '' : String(binding.limit),
    delay: binding.delay === undefined ? '' : String(binding.delay),
    asks: asksText(binding.if),
    which: 'every' in binding.to ? whichOf(binding.to) : ANY,
    how: {
      off: binding.enabled === false,
      code: binding.origin === 'code',
      bind: binding.bind ?? 'load',
      release: binding.release ?? 'own',
      note: binding.note ?? '',
    },
  };
}
/** Conditions without the word before them. */
export function asksText(conditions: readonly Condition[] | undefined): string {
  return printConditions(conditions).replace(/^if /, '');
}
function whichOf({ match, within = 'asset', pick, spawned }: SelectionTarget): Which {
  return {
    match: match === undefined ? '' : match === 'all' ? 'all' : match.property,
    equals: match === undefined || match === 'all' ? '' : keyText(match.equals),
    within,
    first: pick === 'first',
    spawned: spawned === true,
  };
}
function keyText(key: KeyExpr): string {
  return argText(key);
}
/** A text literal goes without its quotes where that cannot be misread. */
function argText(arg: Arg): string {
  return typeof arg === 'string' && /^[^$@"\s][^"]*$/.test(arg) && arg !== 'sender' ? arg : printArg(arg);
}

/** Reads all fields; what is wrong is reported by field. */
export function checkDraft(draft: Draft, params: readonly Field[], scope: ArgScope): CheckedDraft {
  const faults = new Map<string, string>();
  const args: Record<string, Arg> = {};
  for (const p of params) {
    const text = own(draft.args, p.name)?.trim() ?? '';
    if (text === '') {
      if (!p.optional) faults.set(p.name, `${p.name} needs a value of type ${p.type}`);
      continue;
    }
    const parsed = parseArg(text, p.type, scope);
    if ('error' in parsed) faults.set(p.name, `${p.name}: ${parsed.error}`);
    else put(args, p.name, parsed.arg);
  }
  const limit = wholeNumber(draft.limit, 'limit', faults);
  const delay = seconds(draft.delay, faults);
  const key = parseKey(draft.key);
  return {
    args,
    faults,
    asks: parseAsks(draft.asks, scope, faults),
    selection: selectionOf(draft.which, faults),
    how: draft.how,
    ...(key === undefined ? {} : { key }),
    ...(limit === undefined ? {} : { limit }),
    ...(delay === undefined ? {} : { delay }),
  };
}
/** The faults of what has been entered so far; what is still empty is not wrong yet. */
export function enteredFaults({ faults }: CheckedDraft, draft: Draft): ReadonlyMap<string, string> {
  const entered = (field: string): boolean => {
    if (field === 'equals') return false;
    const isOwn = field === 'limit' || field === 'delay' || field === 'asks';
    const text = isOwn ? draft[field] : draft.args[field];
    return (text ?? '').trim() !== '';
  };
  return new Map([...faults].filter(([field]) => entered(field)));
}
function selectionOf(which: Which, faults: Map<string, string>): CheckedDraft['selection'] {
  const selection: CheckedDraft['selection'] = {};
  if (which.match === 'all') selection.match = 'all';
  else if (which.match !== '') {
    const equals = parseKey(which.equals);
    if (equals === undefined) faults.set('equals', `${which.match} needs a value to be equal to`);
    else selection.match = { property: which.match, equals };
  }
  if (which.within === 'project') selection.within = 'project';
  if (which.first) selection.pick = 'first';
  if (which.spawned) selection.spawned = true;
  return selection;
}
function wholeNumber(text: string, field: string, faults: Map<string, string>): number | undefined {
  if (text.trim() === '') return undefined;
  const n = Number(text);
  if (Number.isInteger(n) && n >= 1) return n;
  faults.set(field, `the limit must be a whole number of at least 1, not "${text}"`);
  return undefined;
}
function seconds(text: string, faults: Map<string, string>): number | undefined {
  if (text.trim() === '') return undefined;
  const n = Number(text.trim().replace(/\s*s$/, '').replace(',', '.'));
  if (!Number.isFinite(n) || n < 0) {
    faults.set('delay', `the delay must be seconds, 0 or more, not "${text}"`);
    return undefined;
  }
  return n === 0 ? undefined : n;
}
function parseAsks(text: string, scope: ArgScope, faults: Map<string, string>): Condition[] {
  const parsed = parseConditions(text);
  if (!('value' in parsed)) {
    faults.set('asks', `if: at character ${parsed.fault.at + 1} ${parsed.fault.message}`);
    return [];
  }
  const [wrong] = conditionFaults(scope, parsed.value);
  if (wrong) faults.set('asks', `if: ${wrong.words}`);
  return parsed.value;
}
/** `@line` reads a property; numbers and true or false are what they look like; all else is text. */
function parseKey(text: string): KeyExpr | undefined {
  const trimmed = text.trim();
  if (trimmed === '') return undefined;
  if (trimmed.startsWith('@')) return { property: trimmed.slice(1) };
  if (trimmed === 'true' || trimmed === 'false') return trimmed === 'true';
  if (trimmed.startsWith('"')) {
    try {
      return JSON.parse(trimmed) as string;
    } catch {
      return trimmed;
    }
  }
  return Number.isFinite(Number(trimmed)) ? Number(trimmed) : trimmed;
}

/** A binding with the checked fields in it; what the fields do not speak of stays. */
export function withDraft(binding: Binding, draft: CheckedDraft): Binding {
  const { args: _args, limit: _limit, delay: _delay, if: before, ...rest } = binding;
  const next: Binding = { ...rest };
  if (Object.keys(draft.args).length > 0) next.args = draft.args;
  if (draft.limit !== undefined) next.limit = draft.limit;
  if (draft.delay !== undefined) next.delay = draft.delay;
  // A list that asks nothing is one all the same, where the binding spells it out.
  if (draft.asks.length > 0 || before?.length === 0) next.if = draft.asks;
  if ('every' in next.to) next.to = { every: next.to.every, action: next.to.action, ...draft.selection };
  if ('channel' in next.to) next.to = withKey(next.to.channel, draft.key);
  else if ('channel' in next.from) next.from = withKey(next.from.channel, draft.key);
  return withHow(next, draft.how);
}
/** What is as usual is left out, unless the binding spells it out itself. */
function withHow(binding: Binding, how: How): Binding {
  const next: Binding = { ...binding };
  const say = <K extends 'enabled' | 'origin' | 'bind' | 'release'>(
    part: K,
    value: NonNullable<Binding[K]>,
    usual: NonNullable<Binding[K]>,
  ): void => {
    if (value !== usual) next[part] = value;
    else if (next[part] !== usual) delete next[part];
  };
  say('enabled', !how.off, true);
  say('origin', how.code ? 'code' : 'authored', 'authored');
  say('bind', how.code ? how.bind : 'load', 'load');
  say('release', how.code ? how.release : 'own', 'own');
  if (how.note.trim() !== '') next.note = how.note;
  else delete next.note;
  return next;
}
function withKey(channel: string, key: KeyExpr | undefined): { channel: string; key?: KeyExpr } {
  return key === undefined ? { channel } : { channel, key };
}

/** One edit that wires an event to all receivers, appended in their order. */
export function wiringOf(
  owner: AssetIndex,
  from: Binding['from'],
  receivers: readonly string[],
  action: string,
  draft: CheckedDraft,
): { changeSet: ChangeSet; ids: string[] } {
  const taken = new Set<string>();
  const bindings = receivers.map((path) => {
    const id = freeBindingId(
      owner,
      'event' in from ? `${from.event}-${stem(path)}` : `${from.channel}-${stem(path)}`,
      taken,
    );
    taken.add(id);
    const to: Binding['to'] = path.startsWith('#')
      ? { channel: path.slice(1) }
      : path.startsWith(EVERY)
        ? { every: path.slice(EVERY.length), action }
        : { at: path, action };
    return withDraft({ id, from, to }, draft);
  });
  const who = receivers.length === 1 ? receivers[0] : `${receivers.length} receivers`;
  const sender = 'event' in from ? `${from.at}.${from.event}` : `#${from.channel}`;
  return {
    ids: bindings.map((b) => b.id),
    changeSet: {
      label: `${owner.decl.id}: wired ${sender} to ${who}${action === '' ? '' : ` (${action})`}`,
      changes: bindings.map((item, i) => ({
        op: 'insert',
        list: 'bindings',
        asset: owner.decl.id,
        index: owner.bindings.length + i,
        item,
      })),
    },
  };
}
function stem(path: string): string {
  if (path.startsWith(EVERY)) return `every-${path.slice(EVERY.length)}`;
  return path === '.' ? 'self' : (path.split('/').at(-1) ?? path).replace(/^[#~]/, '');
}
