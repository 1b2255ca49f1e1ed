import type {
  Arg,
  Binding,
  BindingFrom,
  BindingTo,
  ChannelEnd,
  Condition,
  KeyExpr,
  SelectionTarget,
  Value,
} from '../project/types.js';
import { askedAt } from './conditions.js';
import type { ParsedText } from './declared.js';
import { Scanner, WireLineFault, type Want } from './scanner.js';

/** A binding as a line says it: the id is there only if the line names one. */
export type LineBinding = Omit<Binding, 'id'> & { id?: string };
export type ParsedLine = { binding: LineBinding } | { fault: WireLineFault };

const NAME = /^[A-Za-z_][A-Za-z0-9_-]*/;
const NUMBER = /^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?(?![A-Za-z0-9_.-])/;

/**
 * Reads one wire line, `when mast-2.onGust do brake-1.engage(force = $speed) once after 0.5s`; `docs/wire-lines.md` has
 * the grammar. Whether the names are there is not looked at. Linear in the line.
 */
export function parseWireLine(line: string): ParsedLine {
  try {
    return { binding: new LineReader(new Scanner(line)).read() };
  } catch (error) {
    if (error instanceof WireLineFault) return { fault: error };
    throw error;
  }
}

/** Reads what stands behind `if`: `$speed > 12 and @calm = false`; an empty text asks nothing. Linear in the text. */
export function parseConditions(text: string): ParsedText<Condition[]> {
  const scanner = new Scanner(text);
  try {
    if (scanner.ended) return { value: [] };
    const value = new LineReader(scanner).conditions();
    if (!scanner.ended) scanner.fail('"and", or the end');
    return { value };
  } catch (error) {
    if (error instanceof WireLineFault) return { fault: error };
    throw error;
  }
}

/** What could stand at the end of the beginning of a line, and where it begins. */
export function wantedAt(beginning: string): { want: Want; at: number; before: Partial<LineBinding> } {
  const scanner = new Scanner(beginning);
  const reader = new LineReader(scanner);
  try {
    reader.read();
  } catch (error) {
    if (!(error instanceof WireLineFault)) throw error;
  }
  return { ...scanner.wanted, before: reader.before };
}

class LineReader {
  /** What has been read so far. */
  readonly before: Partial<LineBinding> = {};

  constructor(private readonly s: Scanner) {}

  read(): LineBinding {
    const { s, before } = this;
    this.word('when', 'when');
    before.from = this.from();
    this.word('do', 'do');
    before.to = this.to();
    if ('channel' in before.from && 'channel' in before.to) {
      s.fail('a receiver, since what is heard on a channel cannot be published again');
    }
    const args = this.args();
    if (args) before.args = args;
    this.options();
    return before as LineBinding;
  }

  private word(word: string, expected: string): void {
    this.s.skipBlanks();
    this.s.want({ kind: 'word', words: [word] });
    if (!this.s.takeWord(word)) this.s.fail(`"${expected}"`);
  }
  private name(expected: string, want: Want): string {
    this.s.want(want);
    return this.s.takeQuoted() ?? this.s.takeHere(NAME) ?? this.s.fail(expected);
  }

  private from(): BindingFrom {
    const { s } = this;
    s.skipBlanks();
    if (s.takeHere(/^#/) !== null) return this.channel();
    const at = this.path({ kind: 'sender' }, 'a sender and its event, such as mast-2.onGust');
    return { at, event: this.name('an event', { kind: 'event', at }) };
  }
  private to(): BindingTo {
    const { s } = this;
    s.skipBlanks();
    if (s.takeHere(/^#/) !== null) return this.channel();
    s.want({ kind: 'receiver' });
    if (s.takeHere(/^every\s+/) !== null) return this.selection();
    const at = this.path({ kind: 'receiver' }, 'a receiver and its action, such as brake-1.engage');
    return { at, action: this.name('an action', { kind: 'action', at }) };
  }

  /** A path with the dot after it; the last dot of the word is the one that divides it from the name. */
  private path(want: Want, expected: string): string {
    const { s } = this;
    s.want(want);
    const quoted = s.takeQuoted();
    if (quoted !== null) {
      if (s.takeHere(/^\./) === null) s.fail('a dot and a name');
      return quoted;
    }
    const path = s.takeHere(/^[A-Za-z0-9_~:/.-]*\./);
    if (path === null) {
      // What is there of it may be the beginning of one.
      s.takeHere(/^[A-Za-z0-9_~:/-]+/);
      return s.fail(s.at === s.wanted.at ? expected : 'a dot and a name');
    }
    return path === '.' ? '.' : path.slice(0, -1);
  }

  private channel(): ChannelEnd {
    const { s } = this;
    const channel = this.name('a channel', { kind: 'channel' });
    if (s.takeHere(/^\[/) === null) return { channel };
    const key = this.key();
    this.close(']');
    return { channel, key };
  }
  private key(): KeyExpr {
    const { s } = this;
    s.skipBlanks();
    s.want({ kind: 'key' });
    if (s.takeHere(/^@/) !== null) return { property: this.name('a property', { kind: 'key' }) };
    return this.value('a key: a value, or @property', { kind: 'key' });
  }
  private close(bracket: ']' | ')'): void {
    if (this.s.take(bracket === ']' ? /^\]/ : /^\)/) === null) this.s.fail(`"${bracket}"`);
  }

  private selection(): SelectionTarget {
    const { s } = this;
    const every = this.name('a prefab or widget', { kind: 'asset' });
    const to: SelectionTarget = { every, action: '' };
    if (s.take(/^\[/) !== null) {
      do this.filter(to);
      while (s.take(/^,/) !== null);
      this.close(']');
    }
    if (s.takeHere(/^\./) === null) s.fail('a dot and an action');
    to.action = this.name('an action', { kind: 'selected-action', asset: every });
    return to;
  }
  private filter(to: SelectionTarget): void {
    const { s } = this;
    s.skipBlanks();
    s.want({ kind: 'property', asset: to.every });
    if (s.take(/^in\s+project(?![\w-])/) !== null) to.within = 'project';
    else if (s.take(/^in\s+owner(?![\w-])/) !== null) to.within = 'asset';
    else if (s.take(/^with\s+spawned(?![\w-])/) !== null) to.spawned = true;
    else if (s.take(/^without\s+spawned(?![\w-])/) !== null) to.spawned = false;
    else if (s.take(/^first\s+only(?![\w-])/) !== null) to.pick = 'first';
    else if (s.take(/^each(?=\s*[,\]])/) !== null) to.pick = 'all';
    else if (s.take(/^all(?=\s*[,\]])/) !== null) to.match = 'all';
    else {
      const property = this.name('a property, "all", "in project", "with spawned" or "first only"', {
        kind: 'property',
        asset: to.every,
      });
      if (s.take(/^=/) === null) s.fail('"="');
      to.match = { property, equals: this.key() };
    }
  }

  private args(): Record<string, Arg> | null {
    const { s } = this;
    if (s.take(/^\(/) === null) return null;
    const given: [string, Arg][] = [];
    this.before.args = {};
    if (s.take(/^\)/) !== null) return {};
    do {
      s.skipBlanks();
      const start = s.at;
      const param = this.name('a parameter', { kind: 'param' });
      const again = given.some(([name]) => name === param);
      if (again) s.backTo(start);
      if (again) s.fail(`a parameter other than ${param}, which already has a value`);
      if (s.take(/^=/) === null) s.fail('"="');
      given.push([param, this.arg(param)]);
      this.before.args = Object.fromEntries(given);
    } while (s.take(/^,/) !== null);
    this.close(')');
    return Object.fromEntries(given);
  }
  private arg(param: string): Arg {
    const { s } = this;
    const want: Want = { kind: 'argument', param };
    s.skipBlanks();
    s.want(want);
    const start = s.at;
    const sign = s.takeHere(/^[$@]/);
    if (sign !== null) {
      const name = this.name(sign === '$' ? 'a field of the payload' : 'a property of the sender', want);
      s.wanted = { want, at: start };
      const as = s.take(/^as\s+string(?![\w-])/) !== null ? ({ as: 'string' } as const) : {};
      return sign === '$' ? { payload: name, ...as } : { property: name, ...as };
    }
    if (s.takeHere(/^sender(?![\w-])/) !== null) return { sender: true };
    return this.value('a value, $field, @property or sender', want);
  }

  /** A literal: as JSON writes it; a single word without quotes is a text. */
  private value(expected: string, want: Want): Value {
    const { s } = this;
    const quoted = s.takeQuoted();
    if (quoted !== null) return quoted;
    const number = s.takeHere(NUMBER);
    if (number !== null) {
      if (!Number.isFinite(Number(number))) s.fail('a number that is not too large', want);
      return Number(number);
    }
    if (s.takeHere(/^\[/) !== null) {
      const x = s.take(NUMBER) ?? s.fail('a number', want);
      if (s.take(/^,/) === null) s.fail('"," and a number', want);
      const y = s.take(NUMBER) ?? s.fail('a number', want);
      this.close(']');
      return [Number(x), Number(y)];
    }
    const word = s.takeHere(/^[A-Za-z_][A-Za-z0-9_.-]*/) ?? s.fail(expected, want);
    return word === 'true' ? true : word === 'false' ? false : word;
  }

  /** `$action = jump and @calm = false`; `nothing` for a list that asks nothing. */
  conditions(): Condition[] {
    const { s } = this;
    const conditions: Condition[] = [];
    if (s.takeWord('nothing')) return conditions;
    do {
      s.skipBlanks();
      s.want({ kind: 'condition' });
      const sign = s.takeHere(/^[$@]/) ?? s.fail('$ and a field of what is carried, or @ and a property');
      const name = this.name(sign === '$' ? 'a field' : 'a property', { kind: 'condition' });
      s.wanted = { want: { kind: 'condition' }, at: s.at - name.length - 1 };
      const of = sign + name;
      s.skipBlanks();
      s.want({ kind: 'test', of });
      const want: Want = { kind: 'asked', of };
      const is = askedAt(s, () => {
        s.skipBlanks();
        s.want(want);
        return this.value('a value', want);
      });
      conditions.push(sign === '$' ? { payload: name, is } : { property: name, is });
    } while (s.takeWord('and'));
    return conditions;
  }
  private options(): void {
    const { s, before } = this;
    const given = new Set<string>();
    let start = s.at;
    const once = (kind: string): void => {
      const again = given.has(kind);
      if (again) s.backTo(start);
      if (again) s.fail(`one ${kind} at most`, { kind: 'option' });
      given.add(kind);
    };
    while (!s.ended) {
      s.want({ kind: 'option' });
      start = s.at;
      const taken = (pattern: RegExp): boolean => s.take(pattern) !== null;
      if (taken(/^if(?![\w-])/)) {
        once('if');
        before.if = this.conditions();
      } else if (taken(/^once(?![\w-])/)) {
        once('limit');
        before.limit = 1;
      } else if (taken(/^at\s+most(?![\w-])/)) {
        once('limit');
        const n = Number(s.take(/^\d+(?![\w.-])/) ?? s.fail('a whole number from 1', { kind: 'text' }));
        if (n < 1 || !Number.isSafeInteger(n)) s.fail('a whole number from 1', { kind: 'text' });
        before.limit = n;
      } else if (taken(/^after(?![\w-])/)) {
        once('delay');
        const n = s.take(/^\d+(?:\.\d+)?(?:[eE][+-]?\d+)?\s*s(?![\w-])/);
        before.delay = Number.parseFloat(n ?? s.fail('seconds, such as 0.5s', { kind: 'text' }));
      } else if (taken(/^in\s+code(?![\w-])/)) {
        once('origin');
        before.origin = 'code';
      } else if (taken(/^by\s+hand(?![\w-])/)) {
        once('origin');
        before.origin = 'authored';
      } else if (taken(/^bound\s+at(?![\w-])/)) {
        once('binding time');
        before.bind = this.choice('start', 'load');
      } else if (taken(/^releases(?![\w-])/)) {
        once('release');
        before.release = this.choice('own', 'all', 'never');
      } else if (taken(/^off(?![\w-])/)) {
        once('switch');
        before.enabled = false;
      } else if (taken(/^on(?![\w-])/)) {
        once('switch');
        before.enabled = true;
      } else if (taken(/^named(?![\w-])/)) {
        once('name');
        s.skipBlanks();
        before.id = this.name('a name for the binding', { kind: 'text' });
      } else if (taken(/^note(?![\w-])/)) {
        once('note');
        s.skipBlanks();
        before.note = s.takeQuoted() ?? s.fail('a note in quotes', { kind: 'text' });
      } else {
        s.want({ kind: 'option' });
        s.fail(
          'an option: if, once, at most 3, after 0.5s, off, in code, bound at start, releases all, named, note',
        );
      }
      // The option may go on being typed: `on` may become `once`.
      s.wanted = { want: { kind: 'option' }, at: start };
    }
    if (/\s$/.test(s.line)) s.want({ kind: 'option' });
  }
  private choice<W extends string>(...words: W[]): W {
    const { s } = this;
    s.skipBlanks();
    for (const word of words) if (s.takeWord(word)) return word;
    return s.fail(words.map((w) => `"${w}"`).join(' or '), { kind: 'word', words });
  }
}
