import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Field, Type } from '../project/types.js';
import { defaultOfType, valuesOfType } from '../project/type-values.js';
import { CAUSE_PHRASES, parseDeclaration } from './declaration.js';
import type { Completion, Completions } from './complete.js';
import { printName } from './names.js';

const MOST = 50;
const EFFECT_WORDS = ['set ', 'raise ', 'toggle ', 'add ', 'spawn ', 'wake', 'sleep', 'destroy'];

/**
 * Completes the beginning of a line that declares something of an asset: words of the notation, types, and names that are
 * there. Cost: the names that could stand there.
 */
export function completeDeclaration(index: ProjectIndex, asset: AssetIndex, beginning: string): Completions {
  const typed = /(?:(?:enum|key):[\w-]*|#?[A-Za-z_][\w-]*|[$@][\w-]*|#)?$/.exec(beginning)![0];
  const at = beginning.length - typed.length;
  const text = typed.toLowerCase();
  const all = candidates(index, asset, beginning.slice(0, at));
  const starting = all.filter((c) => c.text.toLowerCase().startsWith(text));
  const within = all.filter((c) => c.text.toLowerCase().indexOf(text) > 0);
  const isOther = (c: Completion): boolean => c.text !== typed;
  // A line that is whole goes on, unless a name that begins so could be meant.
  const more = starting.some(isOther) || beginning.trim() === '' ? [] : goingOn(index, asset, beginning);
  if (more.length > 0) return { at: beginning.length, options: more.slice(0, MOST) };
  return { at, options: [...starting, ...within].filter(isOther).slice(0, MOST) };
}

/** How a line that is whole could go on, in pieces that leave it whole: so that a definition can be pointed together. */
function goingOn(index: ProjectIndex, asset: AssetIndex, line: string): Completion[] {
  if (/\s$/.test(line)) return [];
  const open = /^[^(:]*\(([^)]*)$/.exec(line);
  if (open) return inFields(index, open[1]);
  const parsed = parseDeclaration(line, (type) => defaultOfType(index, type));
  if (!('value' in parsed)) return [];
  const more = (text: string, about: string): Completion => ({ text, about, isMore: true });
  const { kind, value } = parsed.value;
  const bracket =
    /^[^(:]*[\w"-]$/.test(line) && !/\s(?:when|every|from)\s/.test(line) ? [named('(', 'its payload')] : [];
  if (kind === 'property') {
    return [
      ...(value.isKey ? [] : [more(' key', 'identifies one copy for channels and selections')]),
      ...(value.unique ? [] : [more(' unique', 'must be unique')]),
    ];
  }
  if (kind === 'event') {
    const said = /\s(?:when|every|from)\s/.test(line);
    const causes = CAUSE_PHRASES.map((w) => (/^(?:every|from)/.test(w) ? ` ${w}` : ` when ${w}`));
    return [...(said ? [] : causes.map((c) => more(c, 'its cause'))), ...bracket];
  }
  const isBare = !value.params && !value.effects && /^\s*[\w-]+$/.test(line);
  const values = isBare
    ? [
        more(' = false', 'a property: yes or no'),
        more(' = 0', 'a property: a number'),
        more(' = ""', 'a property: text'),
        ...choiceTypes(index).map((t) => more(`: ${t.text}`, `a property: ${t.about}`)),
      ]
    : [];
  const lead = value.effects ? '; ' : ': ';
  const effects = value.effects ?? [];
  const sets = asset.properties
    .filter((p) => !effects.some((e) => 'set' in e && e.set === p.name))
    .flatMap((p) => {
      const given = [
        ...(value.params ?? []).filter((f) => f.type === p.type).map((f) => `$${printName(f.name)}`),
        ...valuesOfType(index, p.type).map((v) => (typeof v === 'string' ? JSON.stringify(v) : String(v))),
      ];
      return given.map((v) => more(`${lead}set ${printName(p.name)} to ${v}`, 'a property'));
    });
  const raises = asset.events
    .filter((e) => !effects.some((f) => 'raise' in f && f.raise === e.name))
    .map((e) => more(`${lead}raise ${printName(e.name)}`, 'an event'));
  if (effects.length > 0) return [...raises, ...sets];
  const modes = [
    ...(value.whileAsleep ? [] : [more(' while asleep', 'it also runs then')]),
    ...(value.expectsSender ? [] : [more(' expects a sender', 'it needs to know the sender')]),
  ];
  const lives = ['wake', 'sleep', 'destroy'].map((w) => more(`: ${w}`, 'itself'));
  return [...values, ...sets, ...raises, ...bracket, ...modes, ...lives];
}
/** Behind what stands in an open bracket of fields so far: a type behind a name, then another field or the end. */
function inFields(index: ProjectIndex, fields: string): Completion[] {
  const [last] = fields.split(',').slice(-1);
  if (/^\s*[\w-]+\??$/.test(last))
    return types(index).map((t) => ({ ...t, text: `: ${t.text}`, isMore: true }));
  return /:\s*[\w:-]+$/.test(last)
    ? [
        { text: ')', about: 'end of the list', isMore: true },
        { text: ', ', about: 'another one', isMore: true },
      ]
    : [];
}

const named = (text: string, about = ''): Completion => ({ text, about });

function candidates(index: ProjectIndex, asset: AssetIndex, before: string): Completion[] {
  if (before.trim() === '') {
    return [
      named('event ', 'an event that it raises'),
      named('action ', 'something it does'),
      named('property ', 'something it has'),
    ];
  }
  // Inside a bracket of fields, behind a name.
  if (/\([^)]*:\s*$/.test(before) && !/\bwith\s*\([^)]*$/.test(before)) return types(index);
  // A name and a colon can go on as a property or as an action.
  if (/^\s*[\w-]+\s*:\s*$/.test(before)) return [...EFFECT_WORDS.map((w) => named(w)), ...types(index)];
  if (/^\s*property\s/.test(before) || PROPERTY.test(before)) return ofProperty(index, before);
  if (/^\s*event\s/.test(before) || /^\s*on[A-Z]/.test(before)) return ofEvent(index, asset, before);
  const effects = /^[^:(]*(?:\([^)]*\))?[^:(]*:(.*)$/.exec(before);
  if (effects) return ofEffect(index, asset, before, effects[1].split(';').at(-1)!);
  return /\s$/.test(before) && /\S\s+\S/.test(before.trimStart())
    ? [named(': ', 'its effects'), named('while asleep'), named('expects a sender')]
    : [];
}

const PROPERTY = /^\s*[\w-]+\s*(?:=|:\s*(?:(?:bool|int|float|string|vec2|instance)(?![\w-])|(?:enum|key):))/;
function ofProperty(index: ProjectIndex, before: string): Completion[] {
  if (/:\s*$/.test(before)) return types(index);
  const [, type] = /:\s*(\S+)\s*=\s*$/.exec(before) ?? [];
  if (type !== undefined) return values(index, type as Type);
  return /\s$/.test(before) && /[:=]/.test(before) ? [named('= '), named('key'), named('unique')] : [];
}

function ofEvent(index: ProjectIndex, asset: AssetIndex, before: string): Completion[] {
  if (/\bby\s+(?:[^,]+,\s*)*$/.test(before)) {
    const tags = new Set(index.assets.flatMap((a) => a.decl.tags ?? []));
    return [
      ...index.assets
        .filter((a) => a.decl.kind === 'prefab')
        .map((a) => named(printName(a.decl.id), 'prefab')),
      ...[...tags].map((t) => named(`#${printName(t)}`, 'tag')),
    ];
  }
  if (/\bwhen\s+$/.test(before)) {
    const words = CAUSE_PHRASES.filter((w) => !/^(?:every|from)/.test(w));
    return [
      ...words.map((w) => named(w)),
      ...asset.properties.map((p) => named(`${printName(p.name)} changes`, p.type)),
    ];
  }
  if (/\b(?:at|expects|in|from|every)\s+$/.test(before) || !/^\s*(?:event\s+)?[\w-]+.*\s$/.test(before))
    return [];
  const said = /\b(?:when|every|from)\b/.test(before);
  const causes = said ? [] : CAUSE_PHRASES.map((w) => named(/^(?:every|from)/.test(w) ? w : `when ${w}`));
  const by = /\bwhen\s+(?:entered|left|used)\s+$/.test(before) ? [named('by ')] : [];
  return [...by, ...causes, named('at most '), named('in pause'), named('expects a listener')];
}

function ofEffect(index: ProjectIndex, asset: AssetIndex, before: string, last: string): Completion[] {
  const params = paramsOf(index, before);
  const typeOf = (name: string): Type | undefined => asset.properties[asset.propertyAt.get(name) ?? -1]?.type;
  const properties = (after: string): Completion[] =>
    asset.properties.map((p) => named(`${printName(p.name)}${after}`, p.type));
  const given = (type: Type | undefined): Completion[] => [
    ...params.map((p) => named(`$${printName(p.name)}`, p.type)),
    ...(type ? values(index, type) : []),
  ];
  if (last.trim() === '') return EFFECT_WORDS.map((w) => named(w));
  if (/^\s*set\s+$/.test(last)) return properties(' to ');
  const [, set] = /^\s*set\s+([\w-]+)\s+to\s+$/.exec(last) ?? [];
  if (set !== undefined) return given(typeOf(set));
  const [, asked] = /\bwhen\s+(\$?[\w-]+)\s+(?:is|!=|in\s*\((?:[^)]*,)?)\s*$/.exec(last) ?? [];
  if (asked !== undefined) {
    const ofParam = params.find((p) => `$${p.name}` === asked)?.type;
    return values(index, (asked.startsWith('$') ? ofParam : typeOf(asked)) ?? 'string');
  }
  if (/\bwhen\s+$/.test(last)) {
    return [...properties(' is '), ...params.map((p) => named(`$${printName(p.name)} is `, p.type))];
  }
  if (/^\s*toggle\s+$/.test(last) || /^\s*add\s+\S+\s+to\s+$/.test(last)) return properties('');
  if (/^\s*add\s+$/.test(last)) return [...given(undefined), named('1 to ')];
  if (/^\s*raise\s+$/.test(last)) return asset.events.map((e) => named(printName(e.name), e.cause.type));
  if (/^\s*spawn\s+$/.test(last)) {
    return index.assets
      .filter((a) => a.decl.kind !== 'scene')
      .map((a) => named(printName(a.decl.id), a.decl.kind));
  }
  const [, raised, filled] = /^\s*raise\s+([\w-]+).*\bwith\s*\((.*)$/.exec(last) ?? [];
  if (raised !== undefined && !filled.includes(')')) {
    const fields = asset.events[asset.eventAt.get(raised) ?? -1]?.payload ?? [];
    if (/=\s*$/.test(filled)) {
      return [...given(undefined), ...asset.properties.map((p) => named(`@${printName(p.name)}`, p.type))];
    }
    if (/(?:^|,)\s*$/.test(filled)) return fields.map((f) => named(`${printName(f.name)} = `, f.type));
    return [];
  }
  if (!/\s$/.test(last)) return [];
  const more = /^\s*raise\s/.test(last) ? [named('after '), named('with (')] : [];
  if (/\bafter\s+\S+s\s+$/.test(last)) more.push(named('restarting', 'replaces the pending one'));
  return [...more, named('when ', 'only if a property has a value'), named('; ', 'another effect')];
}

/** The parameters that the line itself declares. */
function paramsOf(index: ProjectIndex, before: string): readonly Field[] {
  const head = /^[^:(]*(?:\([^)]*\))?/.exec(before)![0];
  const parsed = parseDeclaration(head, (type) => defaultOfType(index, type));
  return 'value' in parsed && parsed.value.kind === 'action' ? (parsed.value.value.params ?? []) : [];
}
function types(index: ProjectIndex): Completion[] {
  return [
    ...['bool', 'int', 'float', 'string', 'vec2', 'instance'].map((t) => named(t)),
    ...choiceTypes(index),
  ];
}
/** Types that name their values one by one. */
function choiceTypes(index: ProjectIndex): Completion[] {
  const { enums = [], tables = [] } = index.project;
  return [
    ...enums.map((e) => named(`enum:${e.name}`, e.values.slice(0, 4).join(', '))),
    ...tables.map((t) => named(`key:${t.name}`, t.keys.slice(0, 4).join(', '))),
  ];
}
function values(index: ProjectIndex, type: Type): Completion[] {
  return valuesOfType(index, type).map((v) => named(typeof v === 'string' ? printName(v) : String(v), type));
}
