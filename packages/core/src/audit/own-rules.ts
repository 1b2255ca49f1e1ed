import { OquelError } from '../util/oquel-error.js';
import { own } from '../util/own.js';
import { bindingWords } from '../wireline/binding-words.js';
import { bindingsEvidence, namesEvidence, nodesEvidence, placesEvidence } from './evidence.js';
import { bindingRef, nodeRef, ownerText, placementRef } from './names.js';
import { defineRule, MAX_PARTS, type AnyPart, type Rule } from './rule.js';
import { ALL_RULES } from './rules/registry.js';
import { UNIT_CHANGES, type UnitKind } from './units.js';

/** What a team's own rules are made with: the same as the core's. */
export const RULE_TOOLS = {
  defineRule,
  bindingsEvidence,
  namesEvidence,
  nodesEvidence,
  placesEvidence,
  bindingRef,
  bindingWords,
  nodeRef,
  ownerText,
  placementRef,
} as const;
export type RuleTools = typeof RULE_TOOLS;

/** A rule that cannot be taken, in words for whoever wrote it. */
export class RuleRefused extends OquelError {
  override readonly name = 'RuleRefused';
  readonly code = 'rule-refused';
}

const NAME = /^[a-z][a-z0-9]*(-[a-z0-9]+)*$/;
const SEVERITIES: readonly unknown[] = ['error', 'warning', 'info'];
const MOST_RULES = 200;

/**
 * A team's own rules, from what its module gives: a list of them, or a function that makes one with {@link RULE_TOOLS}. They are
 * checked as far as that can be done without running them. Cost: the rules. @throws RuleRefused
 */
export function ownRules(given: unknown): Rule[] {
  const list: unknown =
    typeof given === 'function' ? (given as (tools: RuleTools) => unknown)(RULE_TOOLS) : given;
  if (!Array.isArray(list)) {
    throw new RuleRefused('expected a list of rules, or a function that returns one, as the default export');
  }
  if (list.length > MOST_RULES)
    throw new RuleRefused(`${list.length} rules; at most ${MOST_RULES} can be taken`);
  const names = new Set(ALL_RULES.map((rule) => rule.meta.name));
  return list.map((value: unknown, i) => {
    const rule = checked(value, `rule ${i + 1}`);
    if (names.has(rule.meta.name))
      throw new RuleRefused(`${rule.meta.name}: there already is a rule of that name`);
    names.add(rule.meta.name);
    return rule;
  });
}

function checked(value: unknown, where: string): Rule {
  if (!isObject(value)) throw new RuleRefused(`${where}: expected an object with meta, messages and parts`);
  const { meta, messages, parts } = value;
  if (!isObject(meta)) throw new RuleRefused(`${where}: meta is missing`);
  if (typeof meta.name !== 'string' || !NAME.test(meta.name)) {
    throw new RuleRefused(
      `${where}: meta.name must be of lower-case words with hyphens, such as "lamp-needs-switch"`,
    );
  }
  const { name } = meta;
  for (const part of ['what', 'why', 'fix'] as const) {
    if (!isText(own(meta, part))) throw new RuleRefused(`${name}: meta.${part} must be a sentence`);
  }
  if (!SEVERITIES.includes(meta.severity))
    throw new RuleRefused(`${name}: meta.severity must be error, warning or info`);
  const texts = isObject(messages) ? Object.values(messages) : [];
  if (texts.length === 0 || texts.some((text) => typeof text !== 'string')) {
    throw new RuleRefused(`${name}: messages must name at least one text`);
  }
  if (!Array.isArray(parts) || parts.length === 0 || parts.length > MAX_PARTS) {
    throw new RuleRefused(`${name}: parts must be a list of 1 to ${MAX_PARTS}`);
  }
  for (const part of parts as unknown[]) checkPart(part, name);
  const rule = value as unknown as Rule;
  return { ...rule, meta: { ...rule.meta, group: 'own' } };
}

function checkPart(value: unknown, name: string): void {
  if (!isObject(value)) throw new RuleRefused(`${name}: each part must be an object`);
  const { unit, after = [], check } = value as Partial<AnyPart>;
  const changes = Object.hasOwn(UNIT_CHANGES, String(unit)) ? UNIT_CHANGES[unit as UnitKind] : null;
  if (!changes) {
    throw new RuleRefused(
      `${name}: unit "${String(unit)}" is none of ${Object.keys(UNIT_CHANGES).join(', ')}`,
    );
  }
  if (typeof check !== 'function') throw new RuleRefused(`${name}: check must be a function`);
  const known: readonly unknown[] = changes;
  const wrong: unknown = Array.isArray(after)
    ? after.find((change: unknown) => !known.includes(change))
    : after;
  if (wrong !== undefined) {
    const all = changes.length === 0 ? 'nothing' : changes.map((c) => `"${c}"`).join(', ');
    throw new RuleRefused(
      `${name}: a part about ${unit!} can be judged after ${all}, not after ${JSON.stringify(wrong)}`,
    );
  }
}

function isText(value: unknown): boolean {
  return typeof value === 'string' && value !== '';
}
function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
