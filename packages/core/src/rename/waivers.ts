import type { BindingRef, EffectRefName, Finding, Subject } from '../audit/finding.js';
import { fingerprint } from '../audit/fingerprint.js';
import { canonicalJson } from '../project/canonical.js';
import { effectName } from '../project/effect-name.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Waiver } from '../project/types.js';
import { own } from '../util/own.js';
import { NameContext } from '../names/context.js';
import { effectNames } from '../names/declarations.js';
import type { NameVisitor } from '../names/name.js';
import { each, patched } from '../names/patch.js';

/**
 * The waivers under which findings are still waived when names are replaced; null where none of them changes. A waiver of
 * something that is no finding now stays as it is. Linear in the findings and waivers.
 */
export function renamedWaivers(
  index: ProjectIndex,
  visit: NameVisitor,
  findings: readonly Finding[],
): Waiver[] | null {
  const { waivers } = index.project;
  if (!waivers || waivers.length === 0) return null;
  const found = new Map(findings.map((f) => [f.fingerprint, f]));
  const names = new SubjectNames(index, visit);
  const next = each(waivers, (w) => {
    const finding = found.get(w.fingerprint);
    if (!finding) return w;
    const subject = names.subject(finding.subject, finding.rule);
    return patched(w, {
      fingerprint: fingerprint(finding.rule, finding.class, subject),
      ...(w.occurrences && { occurrences: each(w.occurrences, (o) => names.occurrence(o)) }),
    });
  });
  return next === waivers ? null : next;
}

/** Replaces names in what a finding is about. */
class SubjectNames {
  private readonly names: NameContext;
  constructor(index: ProjectIndex, visit: NameVisitor) {
    this.names = new NameContext(index, visit);
  }

  subject(subject: Subject, rule: string): Subject {
    if ('effects' in subject) {
      return {
        bindings: sorted(subject.bindings.map((b) => this.binding(b))),
        effects: sorted(subject.effects.map((e) => this.effect(e))),
      };
    }
    if ('bindings' in subject) {
      const [a, b] = subject.bindings;
      return { bindings: [this.binding(a), this.binding(b)] };
    }
    if ('assets' in subject) {
      const [a, b] = subject.assets;
      return { assets: [this.names.asset(a), this.names.asset(b)] };
    }
    if ('binding' in subject) {
      const next = this.binding(subject);
      if ('name' in subject) return { ...next, name: this.asked(subject) };
      return 'param' in subject ? { ...next, param: this.param(subject) } : next;
    }
    if ('effect' in subject) {
      const next = this.effect(subject);
      if (!('property' in subject)) return next;
      const spawned = subject.effect.startsWith('spawn:') ? subject.effect.slice(6) : subject.asset;
      return {
        ...next,
        property: this.names.inside(this.names.assetOf(spawned), 'property', subject.property),
      };
    }
    if ('asset' in subject) {
      const next = this.declaration(subject);
      if (rule !== 'unhandled-value' || !('event' in subject) || !('name' in subject)) return next;
      const source = { kind: 'eventField', asset: subject.asset, of: subject.event } as const;
      return { ...next, name: this.names.field(source, subject.name) };
    }
    if ('channel' in subject) {
      const channel = this.names.visit('channel', '', '', subject.channel);
      if (!('name' in subject)) return { channel };
      return { channel, name: this.names.visit('channelField', '', subject.channel, subject.name) };
    }
    if ('loadSet' in subject) {
      return { ...subject, loadSet: this.names.visit('loadSet', '', '', subject.loadSet) };
    }
    return subject;
  }
  /** An occurrence is mostly the address of an instance, or of a placement that yields none. */
  occurrence(text: string): string {
    const scene = text.slice(0, Math.max(0, text.indexOf(':')));
    return this.names.assetOf(scene) ? this.names.path(null, text).at : text;
  }

  private declaration(subject: { asset: string } & Record<string, unknown>): Subject {
    const owner = this.names.assetOf(subject.asset);
    const next: Record<string, unknown> = { ...subject, asset: this.names.asset(subject.asset) };
    for (const kind of ['event', 'action', 'placement'] as const) {
      const name = own(subject, kind);
      if (typeof name === 'string') next[kind] = this.names.inside(owner, kind, name);
    }
    if (typeof subject.name === 'string' && typeof subject.placement === 'string') {
      next.name = this.nameOfPlacement(owner, subject.placement, subject.name);
    }
    if (typeof subject.param === 'string') {
      next.param = this.paramOfAction(owner, String(subject.action), subject.param);
    }
    if (typeof subject.property === 'string') {
      const placement = owner?.placements[owner.placementAt.get(String(subject.placement)) ?? -1];
      const placed = placement ? this.names.assetOf(placement.asset) : owner;
      // Of what stands inside the placement: its path, a dot, and the property.
      const dot = subject.property.lastIndexOf('.');
      const inner =
        dot < 0 ? { at: '', asset: placed } : this.names.path(placed, subject.property.slice(0, dot));
      const { asset } = inner;
      const property = this.names.inside(asset, 'property', subject.property.slice(dot + 1));
      next.property = dot < 0 ? property : `${inner.at}.${property}`;
      if (typeof subject.key === 'string') {
        next.key = this.names.value(this.names.typeOfProperty(asset, subject.property), subject.key);
      }
    }
    return next as Subject;
  }
  /** The path of a value inside a placement; any other name there stands for nothing. */
  private nameOfPlacement(owner: AssetIndex | null, id: string, name: string): string {
    const placement = owner?.placements[owner.placementAt.get(id) ?? -1];
    if (!placement?.inside || !Object.hasOwn(placement.inside, name)) return name;
    return this.names.path(this.names.assetOf(placement.asset), name).at;
  }
  /** A field of an event that an action raises, or a parameter of the action itself. */
  private paramOfAction(owner: AssetIndex | null, action: string, name: string): string {
    if (!owner) return name;
    const asset = owner.decl.id;
    const effects = owner.actions[owner.actionAt.get(action) ?? -1]?.effects ?? [];
    const raised = effects.find(
      (e) =>
        'raise' in e &&
        ((e.payload !== undefined && Object.hasOwn(e.payload, name)) ||
          this.names.typeOfEventField(owner, e.raise, name) !== undefined),
    );
    return raised && 'raise' in raised
      ? this.names.field({ kind: 'eventField', asset, of: raised.raise }, name)
      : this.names.field({ kind: 'param', asset, of: action }, name);
  }
  private binding({ asset, binding }: BindingRef): BindingRef {
    const owner = this.names.assetOf(asset);
    return { asset: this.names.asset(asset), binding: this.names.inside(owner, 'binding', binding) };
  }
  /** The parameter of the action, or the field of the channel, that a binding fills. */
  private param({ asset, binding: id, param }: BindingRef & { param: string }): string {
    const owner = this.names.assetOf(asset);
    const to = owner?.bindings[owner.bindingAt.get(id) ?? -1]?.to;
    if (!owner || !to) return param;
    if ('channel' in to) return this.names.field({ kind: 'channelField', asset: '', of: to.channel }, param);
    const receiver = 'every' in to ? this.names.assetOf(to.every) : this.names.path(owner, to.at).asset;
    return this.names.field(receiver && { kind: 'param', asset: receiver.decl.id, of: to.action }, param);
  }
  /** What a condition of a binding asks: a field of what is carried, or a property. */
  private asked({ asset, binding: id, name }: BindingRef & { name: string }): string {
    const owner = this.names.assetOf(asset);
    const binding = owner?.bindings[owner.bindingAt.get(id) ?? -1];
    if (!owner || !binding) return name;
    const { from, if: conditions = [] } = binding;
    const reader = 'channel' in from ? owner : this.names.path(owner, from.at).asset;
    if (!conditions.some((c) => 'payload' in c && c.payload === name))
      return this.names.inside(reader, 'property', name);
    return 'channel' in from
      ? this.names.field({ kind: 'channelField', asset: '', of: from.channel }, name)
      : this.names.field(reader && { kind: 'eventField', asset: reader.decl.id, of: from.event }, name);
  }
  private effect({ asset, action, effect }: EffectRefName): EffectRefName {
    const owner = this.names.assetOf(asset);
    const decl = owner?.actions[owner.actionAt.get(action) ?? -1];
    const meant = decl?.effects?.find((e) => effectName(e) === effect);
    return {
      asset: this.names.asset(asset),
      action: this.names.inside(owner, 'action', action),
      effect: owner && meant ? effectName(effectNames(this.names, owner, action, meant)) : effect,
    };
  }
}

/** As the rules sort what has no order of its own. */
function sorted<T extends object>(refs: readonly T[]): T[] {
  return refs
    .map((ref) => ({ ref, key: canonicalJson(ref) }))
    .sort((a, b) => (a.key < b.key ? -1 : a.key > b.key ? 1 : 0))
    .map(({ ref }) => ref);
}
