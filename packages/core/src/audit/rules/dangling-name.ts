import { literalFault } from '../../project/arg-types.js';
import type { AssetIndex } from '../../project/index-project.js';
import { assetInside } from '../../project/inside.js';
import { spawnable } from '../../expand/stand-ins.js';
import type { Binding, Type } from '../../project/types.js';
import { activatorMatches } from '../activators.js';
import { askingBindings } from '../asking.js';
import type { AuditContext } from '../context.js';
import type { Subject } from '../finding.js';
import { effectName } from '../../project/effect-name.js';
import { readyEvidence } from '../evidence.js';
import { defineRule, type Report } from '../rule.js';
import { textEnds } from '../text-ends.js';
import { bindingWords } from '../../wireline/binding-words.js';

type Message =
  | 'muted'
  | 'override'
  | 'inside'
  | 'peer'
  | 'scene'
  | 'property'
  | 'enum'
  | 'activator'
  | 'value'
  | 'condition'
  | 'conditionProperty';
type Send = (r: Report<Message>) => void;

export const danglingName = defineRule<Message>({
  meta: {
    name: 'dangling-name',
    severity: 'warning',
    classes: {
      muted: 'warning',
      override: 'warning',
      peer: 'warning',
      scene: 'warning',
      property: 'warning',
      enum: 'warning',
      activator: 'warning',
      value: 'warning',
      condition: 'warning',
    },
    group: 'targets',
    what: 'A name refers to nothing, or a value does not have its property’s type.',
    why: 'It is ignored, so the intended mute, override or filter has no effect.',
    cure: 'Correct the name, or remove it.',
  },
  messages: {
    muted: '{who} mutes "{name}", which is not a binding of {asset}',
    override: '{who} overrides "{name}", which is not a property of {asset}',
    inside: '{who} has a value for "{name}", but {asset} contains nothing at that path',
    peer: '{who} belongs to the peer "{name}", which does not exist',
    scene: 'The load set {who} names "{name}", which is not a scene',
    property: '{who} is raised when "{name}" changes, which is not a property of {asset}',
    enum: 'The enum "{name}" is used but not declared',
    activator: '{who} may be raised by "{name}", which matches no asset',
    value: '{who} is {name}, which is not of type {asset}',
    condition: '"{who}" has a condition on "{name}", which {asset} does not carry',
    conditionProperty: '"{who}" has a condition on "{name}", which is not a property of {asset}',
  },
  check(ctx, report) {
    for (const asset of ctx.index.assets) {
      checkMutes(ctx, asset, report);
      checkConditions(ctx, asset, report);
    }
    const declared = ctx.oncePlaced('dangling-name', () => {
      const found: Report<Message>[] = [];
      const keep: Send = (r) => found.push({ ...r, evidence: readyEvidence(r.evidence()) });
      for (const asset of ctx.index.assets) {
        checkPlacements(ctx, asset, keep);
        checkSpawns(ctx, asset, keep);
        checkEvents(ctx, asset, keep);
      }
      checkLoadSets(ctx, keep);
      checkEnums(ctx, keep);
      return found;
    });
    declared.forEach(report);
    for (const { value, type, valueSubject, occurrences, where } of ctx.wrongLiterals) {
      const fault = valueSubject && literalFault(ctx.index, value, type);
      if (!fault || fault.kind === 'table') continue;
      const data = { who: where, name: JSON.stringify(value), asset: type };
      send(report, 'value', valueSubject, occurrences, data, []);
    }
  },
});

function send(
  report: Send,
  cls: Message,
  subject: Subject,
  occurrences: Iterable<number>,
  data: { who: string; name: string; asset: string },
  known: Iterable<string>,
  message: Message = cls,
): void {
  report({
    class: cls,
    message,
    subject,
    occurrences,
    data,
    evidence: () => ({ kind: 'names', wanted: data.name, known: [...known].slice(0, 200) }),
  });
}

/** What a placement mutes is looked up among the bindings of its asset. */
function checkMutes(ctx: AuditContext, owner: AssetIndex, report: Send): void {
  const muting = ctx.perAuthored('muting', owner.decl, () =>
    [...owner.placements.keys()].filter((slot) => (owner.placements[slot].muted?.length ?? 0) > 0),
  );
  for (const slot of muting) {
    const p = owner.placements[slot];
    const placed = ctx.index.assets[owner.placed[slot]] as AssetIndex | undefined;
    for (const name of placed ? (p.muted ?? []) : []) {
      if (placed!.bindingAt.has(name)) continue;
      const subject = { asset: owner.decl.id, placement: p.id, name };
      const data = { who: p.id, asset: placed!.decl.id, name };
      const where = ctx.instancesOfPlacement(owner.at, slot);
      send(report, 'muted', subject, where, data, placed!.bindingAt.keys());
    }
  }
}

/** What a condition asks is looked up where the binding's source leads; a source that leads nowhere is told as such. */
function checkConditions(ctx: AuditContext, owner: AssetIndex, report: Send): void {
  for (const at of askingBindings(ctx, owner)) {
    const binding = owner.bindings[at];
    if (!ctx.isJudged(owner.at, at)) continue;
    const missing = ctx.perAuthored('conditions', binding, () => missingAsked(ctx, owner, binding));
    for (const { name, of, known, message } of missing) {
      const subject = { asset: owner.decl.id, binding: binding.id, name };
      const data = { who: bindingWords(binding), name, asset: of };
      send(report, 'condition', subject, ctx.ownersOf(owner.at, at), data, known, message);
    }
  }
}
interface MissingAsked {
  name: string;
  /** What it was looked for in. */
  of: string;
  known: readonly string[];
  message: 'condition' | 'conditionProperty';
}
function missingAsked(ctx: AuditContext, owner: AssetIndex, binding: Binding): MissingAsked[] {
  const { payload, reader } = textEnds(ctx, owner, binding);
  const { from } = binding;
  const seen = new Set<string>();
  return binding.if!.flatMap((c): MissingAsked[] => {
    const name = 'payload' in c ? c.payload : c.property;
    if (seen.has(name)) return [];
    if ('payload' in c) {
      if (!payload || payload.some((f) => f.name === name)) return [];
      const of = 'channel' in from ? `#${from.channel}` : from.event;
      seen.add(name);
      return [{ name, of, known: payload.map((f) => f.name), message: 'condition' }];
    }
    if (!reader || reader.propertyAt.has(name)) return [];
    seen.add(name);
    return [{ name, of: reader.decl.id, known: [...reader.propertyAt.keys()], message: 'conditionProperty' }];
  });
}

function checkPlacements(ctx: AuditContext, owner: AssetIndex, report: Send): void {
  const peers = (ctx.index.project.peers ?? []).map((p) => p.name);
  owner.placements.forEach((p, slot) => {
    const subject = { asset: owner.decl.id, placement: p.id };
    const where = (): number[] => ctx.instancesOfPlacement(owner.at, slot);
    const placed = ctx.index.assets[owner.placed[slot]] as AssetIndex | undefined;
    if (placed) {
      const data = { who: p.id, asset: placed.decl.id };
      for (const name of Object.keys(p.properties ?? {})) {
        if (placed.propertyAt.has(name)) continue;
        const own = { ...subject, property: name };
        send(report, 'override', own, where(), { ...data, name }, placed.propertyAt.keys());
      }
      for (const [path, values] of Object.entries(p.inside ?? {})) {
        const inner = assetInside(ctx.index, placed, path);
        if (!inner) {
          const known = placed.placementAt.keys();
          const missing = { ...data, name: path };
          send(report, 'override', { ...subject, name: path }, where(), missing, known, 'inside');
          continue;
        }
        for (const name of Object.keys(values)) {
          if (inner.propertyAt.has(name)) continue;
          const said = { who: `${p.id}/${path}`, asset: inner.decl.id, name };
          const own = { ...subject, property: `${path}.${name}` };
          send(report, 'override', own, where(), said, inner.propertyAt.keys());
        }
      }
    }
    for (const name of peers.length > 0 ? [p.authority, p.operator] : []) {
      if (name === undefined || peers.includes(name)) continue;
      send(report, 'peer', { ...subject, name }, where(), { who: p.id, name, asset: '' }, peers);
    }
  });
}

function checkSpawns(ctx: AuditContext, asset: AssetIndex, report: Send): void {
  for (const { action, effect } of asset.effects) {
    if (!('spawn' in effect)) continue;
    const spawned = spawnable(ctx.index, effect.spawn);
    for (const name of Object.keys(effect.properties ?? {})) {
      if (!spawned || spawned.propertyAt.has(name)) continue;
      const subject = {
        asset: asset.decl.id,
        action: asset.actions[action].name,
        effect: effectName(effect),
        property: name,
      };
      const data = { who: subject.action, name, asset: spawned.decl.id };
      send(report, 'override', subject, ctx.instancesOf(asset.at), data, spawned.propertyAt.keys());
    }
  }
}

function checkEvents(ctx: AuditContext, asset: AssetIndex, report: Send): void {
  for (const { name: event, cause } of asset.events) {
    const about = (name: string): Subject => ({ asset: asset.decl.id, event, name });
    if (cause.type === 'change' && !asset.propertyAt.has(cause.property)) {
      const data = { who: event, name: cause.property, asset: asset.decl.id };
      send(
        report,
        'property',
        about(cause.property),
        ctx.instancesOf(asset.at),
        data,
        asset.propertyAt.keys(),
      );
    }
    const list = ('activators' in cause && cause.activators) || [];
    const idle = list.filter((entry) => !activatorMatches(ctx.index, entry));
    // Where none matches, nobody at all can raise it, and another rule says that.
    if (idle.length === list.length) continue;
    for (const name of idle) {
      const data = { who: event, name, asset: '' };
      send(report, 'activator', about(name), ctx.instancesOf(asset.at), data, ctx.index.assetAt.keys());
    }
  }
}

function checkLoadSets(ctx: AuditContext, report: Send): void {
  const scenes = ctx.index.assets.filter((a) => a.decl.kind === 'scene').map((a) => a.decl.id);
  for (const set of ctx.index.project.loadSets ?? []) {
    for (const name of set.scenes) {
      if (scenes.includes(name)) continue;
      send(report, 'scene', { loadSet: set.name, name }, [], { who: set.name, name, asset: '' }, scenes);
    }
  }
}

function checkEnums(ctx: AuditContext, report: Send): void {
  const declared = (ctx.index.project.enums ?? []).map((e) => e.name);
  const known = new Set(declared);
  for (const type of typesUsed(ctx)) {
    if (!type.startsWith('enum:') || known.has(type.slice(5))) continue;
    const name = type.slice(5);
    send(report, 'enum', { name }, [], { who: '', name, asset: '' }, declared);
  }
}
function typesUsed(ctx: AuditContext): Set<Type> {
  const types = new Set<Type>();
  for (const c of ctx.index.project.channels ?? []) for (const f of c.payload ?? []) types.add(f.type);
  for (const a of ctx.index.assets) {
    for (const p of a.properties) types.add(p.type);
    for (const e of a.events) for (const f of e.payload ?? []) types.add(f.type);
    for (const action of a.actions) for (const f of action.params ?? []) types.add(f.type);
  }
  return types;
}
