import { fieldNamed } from '../project/fields.js';
import { assetInside } from '../project/inside.js';
import { literalFault } from '../project/arg-types.js';
import type { AssetIndex } from '../project/index-project.js';
import type { Arg, Binding, Condition, Effect, Field, Type, Value } from '../project/types.js';
import { hasConditions, literalsAsked } from '../project/condition.js';
import { isLiteral } from '../project/value.js';
import type { AnalysisInputs } from './inputs.js';
import type { Subject } from './finding.js';
import { effectName } from '../project/effect-name.js';
import { spawnable } from '../expand/stand-ins.js';
import type { BindingEnds } from '../edit/binding-ends.js';
import type { BindingUnit } from './units.js';
import { own } from '../util/own.js';

/** A literal of the document with the type of the place where it stands. */
export interface Literal {
  value: Value;
  type: Type;
  /** For the rule on keys. */
  subject: Subject;
  /** For the rule on values; null where another rule judges its type. */
  valueSubject: Subject | null;
  occurrences: Iterable<number>;
  /** Where it stands, in words. */
  where: string;
}

/**
 * The literals of an asset's defaults, overrides and effects that are not of their declared types. Most are right. Looked for
 * once in each state of the placements and declarations.
 */
export function declaredLiterals(inputs: AnalysisInputs, asset: AssetIndex): readonly Literal[] {
  const known = inputs.once('declared literals', () => new Map<number, readonly Literal[]>());
  const found = known.get(asset.at);
  if (found) return found;
  const walk = new LiteralWalk(inputs);
  walk.declarations(asset);
  known.set(asset.at, walk.out);
  return walk.out;
}
/** The literals of a binding's arguments, match and conditions that are not of their declared types. */
export function boundLiterals(inputs: AnalysisInputs, unit: BindingUnit): Literal[] {
  const walk = new LiteralWalk(inputs);
  walk.binding(unit);
  return walk.out;
}
/** Whether there are any literals in a binding. */
export function hasLiterals({ args, to, if: conditions }: Binding): boolean {
  if (hasConditions(conditions) || ('every' in to && to.match !== undefined && to.match !== 'all'))
    return true;
  return args !== undefined && Object.values(args).some(isLiteral);
}

/** Where a literal of a binding stands: in the argument of a parameter, in its match, or in a condition on something. */
interface BoundLiteral {
  value: Value;
  type: Type;
  in: { param: string } | 'match' | { asked: string };
}

class LiteralWalk {
  readonly out: Literal[] = [];
  private readonly tables: ReadonlyMap<string, ReadonlySet<string>>;

  constructor(private readonly inputs: AnalysisInputs) {
    this.tables = inputs.index.typeNames.ofTables;
  }
  declarations(asset: AssetIndex): void {
    this.defaults(asset);
    this.overrides(asset);
    this.effects(asset);
  }

  private isWrong(value: Value, type: Type): boolean {
    if (type.startsWith('key:') && typeof value === 'string' && !this.tables.has(type.slice(4))) return true;
    return literalFault(this.inputs.index, value, type) !== null;
  }

  private defaults(asset: AssetIndex): void {
    const { inputs } = this;
    for (const { name, type, default: value } of asset.properties) {
      if (!this.isWrong(value, type)) continue;
      const subject = { asset: asset.decl.id, property: name };
      const occurrences = inputs
        .instancesOf(asset.at)
        .filter((i) => !Object.hasOwn(inputs.overridesOf(i), name));
      this.out.push({
        value,
        type,
        subject,
        valueSubject: subject,
        occurrences,
        where: `the default of ${name}`,
      });
    }
  }

  private overrides(asset: AssetIndex): void {
    const { index } = this.inputs;
    for (const [slot, { properties, inside }] of asset.placements.entries()) {
      const placed = index.assets[asset.placed[slot]] as AssetIndex | undefined;
      if (!placed) continue;
      if (properties) this.overriding(asset, slot, placed, properties, '');
      for (const [path, values] of inside ? Object.entries(inside) : []) {
        const inner = assetInside(index, placed, path);
        if (inner) this.overriding(asset, slot, inner, values, path);
      }
    }
  }
  /** The values that a placement gives to what it places, or to what stands inside of that under a path. */
  private overriding(
    asset: AssetIndex,
    slot: number,
    of: AssetIndex,
    values: Record<string, Value>,
    path: string,
  ): void {
    for (const name of Object.keys(values)) {
      const value = own(values, name)!;
      const property = of.properties[of.propertyAt.get(name) ?? -1];
      if (!property || !this.isWrong(value, property.type)) continue;
      const { id } = asset.placements[slot];
      const subject = {
        asset: asset.decl.id,
        placement: id,
        property: path === '' ? name : `${path}.${name}`,
      };
      const occurrences = this.inputs.instancesOfPlacement(asset.at, slot);
      const where = `${name} of ${path === '' ? id : `${id}/${path}`}`;
      this.out.push({ value, type: property.type, subject, valueSubject: subject, occurrences, where });
    }
  }

  private effects(asset: AssetIndex): void {
    const { inputs, out } = this;
    for (const { action, effect } of asset.effects) {
      const subject = {
        asset: asset.decl.id,
        action: asset.actions[action].name,
        effect: effectName(effect),
      };
      const where = `${subject.action} (${subject.effect})`;
      const occurrences = inputs.instancesOf(asset.at);
      const typed = (
        of: AssetIndex,
        name: string,
        value: Value,
        valueSubject: Subject | null = subject,
      ): void => {
        const property = of.properties[of.propertyAt.get(name) ?? -1];
        if (!property || !this.isWrong(value, property.type)) return;
        out.push({ value, type: property.type, subject, valueSubject, occurrences, where });
      };
      if (effect.when) {
        const type = guardType(asset, action, effect.when);
        for (const value of type ? literalsAsked(effect.when.is, type) : []) {
          if (this.isWrong(value, type!))
            out.push({ value, type: type!, subject, valueSubject: subject, occurrences, where });
        }
      }
      if ('set' in effect && isLiteral(effect.to)) typed(asset, effect.set, effect.to);
      if ('spawn' in effect) {
        const spawned = spawnable(inputs.index, effect.spawn);
        for (const [name, value] of Object.entries(effect.properties ?? {})) {
          if (spawned) typed(spawned, name, value, { ...subject, property: name });
        }
      }
      if ('raise' in effect) {
        const fields = asset.events[asset.eventAt.get(effect.raise) ?? -1]?.payload ?? [];
        for (const [value, { type }] of literalArgs(effect.payload, fields)) {
          if (this.isWrong(value, type))
            out.push({ value, type, subject, valueSubject: null, occurrences, where });
        }
      }
    }
  }

  binding(unit: BindingUnit): void {
    const { binding, owner, position, subject } = unit;
    const literals = this.literalsOf(unit);
    if (literals.length === 0) return;
    const occurrences = this.inputs.ownersOf(owner.at, position);
    for (const { value, type, in: place } of literals) {
      const common = { value, type, occurrences };
      if (place === 'match') {
        const where = `the match of ${binding.id}`;
        this.out.push({ ...common, subject, valueSubject: subject, where });
      } else if ('param' in place) {
        const where = `the argument ${place.param} of ${binding.id}`;
        this.out.push({ ...common, subject: { ...subject, ...place }, valueSubject: null, where });
      } else {
        const where = `the condition on ${place.asked} of ${binding.id}`;
        this.out.push({ ...common, subject, valueSubject: { ...subject, name: place.asked }, where });
      }
    }
  }

  /** The wrong literals of one binding: among its arguments and conditions, and that of its match. */
  private literalsOf({ binding, ends }: BindingUnit): BoundLiteral[] {
    const { to, if: conditions } = binding;
    const match = 'every' in to && to.match !== undefined && to.match !== 'all' ? to.match : null;
    const found: BoundLiteral[] = [];
    for (const [value, { name, type }] of literalArgs(binding.args, ends.params ?? [])) {
      if (this.isWrong(value, type)) found.push({ value, type, in: { param: name } });
    }
    if (match && isLiteral(match.equals) && ends.receiver) {
      const property = ends.receiver.properties[ends.receiver.propertyAt.get(match.property) ?? -1];
      if (property && this.isWrong(match.equals, property.type)) {
        found.push({ value: match.equals, type: property.type, in: 'match' });
      }
    }
    for (const c of conditions ?? []) {
      const { name, type } = askedOf(c, ends);
      for (const value of type ? literalsAsked(c.is, type) : []) {
        if (this.isWrong(value, type!)) found.push({ value, type: type!, in: { asked: name } });
      }
    }
    return found;
  }
}

/** What a condition names, and its type; no type for what is not there. */
export function askedOf(c: Condition, { payload, reader }: BindingEnds): { name: string; type?: Type } {
  if ('payload' in c) return { name: c.payload, type: fieldNamed(payload ?? undefined, c.payload)?.type };
  const { property: name } = c;
  return { name, type: reader?.properties[reader.propertyAt.get(name) ?? -1]?.type };
}

/** The type of what a `when` asks; undefined for what is not declared. */
function guardType(asset: AssetIndex, action: number, when: NonNullable<Effect['when']>): Type | undefined {
  if ('property' in when) return asset.properties[asset.propertyAt.get(when.property) ?? -1]?.type;
  return fieldNamed(asset.actions[action].params, when.param)?.type;
}

function* literalArgs(
  args: Record<string, Arg> | undefined,
  fields: readonly Field[],
): Iterable<[Value, Field]> {
  for (const [name, arg] of Object.entries(args ?? {})) {
    const field = fieldNamed(fields, name);
    if (field && isLiteral(arg)) yield [arg, field];
  }
}
