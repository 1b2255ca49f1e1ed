import type { AssetIndex } from '../project/index-project.js';
import type { Arg, Field, Type, Value } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import type { AuditContext } from './context.js';
import type { Subject } from './finding.js';
import { effectName } from './names.js';
import { textEnds } from './text-ends.js';

/** A literal of the document with the type of the place where it stands. */
export interface Literal {
  value: Value;
  type: Type;
  /** For the rule on keys. */
  subject: Subject;
  /** For the rule on values; null where another rule judges its type. */
  valueSubject: Subject | null;
  occurrences: () => Iterable<number>;
  /** Where it stands, in words. */
  where: string;
}

/** Every literal of a declared type: defaults, overrides, set, when, match, arguments and payloads of raises. */
export function literalsOf(ctx: AuditContext): Literal[] {
  const literals: Literal[] = [];
  for (const asset of ctx.index.assets) {
    defaults(ctx, asset, literals);
    overrides(ctx, asset, literals);
    effects(ctx, asset, literals);
    bindings(ctx, asset, literals);
  }
  return literals;
}

function defaults(ctx: AuditContext, asset: AssetIndex, out: Literal[]): void {
  for (const { name, type, default: value } of asset.properties) {
    const subject = { asset: asset.decl.id, property: name };
    const occurrences = (): number[] =>
      [...ctx.instancesOf(asset.at)].filter((i) => !Object.hasOwn(ctx.overridesOf(i), name));
    out.push({ value, type, subject, valueSubject: subject, occurrences, where: `the default of ${name}` });
  }
}

function overrides(ctx: AuditContext, asset: AssetIndex, out: Literal[]): void {
  asset.placements.forEach((p, slot) => {
    if (asset.placed[slot] < 0) return;
    const placed = ctx.index.assets[asset.placed[slot]];
    for (const [name, value] of Object.entries(p.properties ?? {})) {
      const at = placed.propertyAt.get(name);
      if (at === undefined) continue;
      const subject = { asset: asset.decl.id, placement: p.id, property: name };
      const occurrences = (): Iterable<number> => ctx.instancesOfPlacement(asset.at, slot);
      const where = `${name} of ${p.id}`;
      out.push({
        value,
        type: placed.properties[at].type,
        subject,
        valueSubject: subject,
        occurrences,
        where,
      });
    }
  });
}

function effects(ctx: AuditContext, asset: AssetIndex, out: Literal[]): void {
  for (const { action, effect } of asset.effects) {
    const subject = { asset: asset.decl.id, action: asset.actions[action].name, effect: effectName(effect) };
    const where = `${subject.action} (${subject.effect})`;
    const occurrences = (): Iterable<number> => ctx.instancesOf(asset.at);
    const typed = (
      of: AssetIndex,
      property: string,
      value: Value,
      valueSubject: Subject | null = subject,
    ): void => {
      const at = of.propertyAt.get(property);
      if (at === undefined) return;
      out.push({ value, type: of.properties[at].type, subject, valueSubject, occurrences, where });
    };
    if (effect.when) typed(asset, effect.when.property, effect.when.is);
    if ('set' in effect && isLiteral(effect.to)) typed(asset, effect.set, effect.to);
    if ('spawn' in effect) {
      const spawned = ctx.index.assets[ctx.index.assetAt.get(effect.spawn) ?? -1];
      for (const [name, value] of Object.entries(effect.properties ?? {})) {
        if (spawned) typed(spawned, name, value, { ...subject, property: name });
      }
    }
    if ('raise' in effect) {
      const fields = asset.events[asset.eventAt.get(effect.raise) ?? -1]?.payload ?? [];
      for (const [value, field] of literalArgs(effect.payload, fields)) {
        out.push({ value, type: field.type, subject, valueSubject: null, occurrences, where });
      }
    }
  }
}

function bindings(ctx: AuditContext, owner: AssetIndex, out: Literal[]): void {
  owner.bindings.forEach((binding, at) => {
    if (!ctx.isJudged(owner.at, at)) return;
    const subject = { asset: owner.decl.id, binding: binding.id };
    const occurrences = (): Iterable<number> => ctx.ownersOf(owner.at, at);
    const ends = textEnds(ctx, owner, binding);
    for (const [value, field] of literalArgs(binding.args, ends.params ?? [])) {
      const own = { ...subject, param: field.name };
      const where = `the argument ${field.name} of ${binding.id}`;
      out.push({ value, type: field.type, subject: own, valueSubject: null, occurrences, where });
    }
    const { to } = binding;
    if (!('every' in to) || to.match === undefined || to.match === 'all' || !isLiteral(to.match.equals))
      return;
    const selected = ctx.index.assets[ctx.index.assetAt.get(to.every) ?? -1];
    const property = selected?.properties[selected.propertyAt.get(to.match.property) ?? -1];
    if (!property) return;
    const where = `the match of ${binding.id}`;
    out.push({
      value: to.match.equals,
      type: property.type,
      subject,
      valueSubject: subject,
      occurrences,
      where,
    });
  });
}

function* literalArgs(
  args: Record<string, Arg> | undefined,
  fields: readonly Field[],
): Iterable<[Value, Field]> {
  for (const [name, arg] of Object.entries(args ?? {})) {
    const field = fields.find((f) => f.name === name);
    if (field && isLiteral(arg)) yield [arg, field];
  }
}
