import { fieldNamed } from '../../project/fields.js';
import { spawnable } from '../../expand/stand-ins.js';
import { hasConditions } from '../../project/condition.js';
import type { AssetIndex } from '../../project/index-project.js';
import { assetInside } from '../../project/inside.js';
import type { Type } from '../../project/types.js';
import { effectName } from '../../project/effect-name.js';
import { literalFault } from '../../project/arg-types.js';
import { bindingWords } from '../../wireline/binding-words.js';
import { activatorMatches } from '../activators.js';
import { namesEvidence } from '../evidence.js';
import type { AnalysisInputs } from '../inputs.js';
import type { Subject } from '../finding.js';
import { boundLiterals, declaredLiterals, hasLiterals, type Literal } from '../literals.js';
import { defineRule, type TakeReport } from '../rule.js';
import type { BindingUnit } from '../units.js';

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
type Send = TakeReport<Message>;

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
    fix: 'Correct the name, or remove it.',
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
  parts: [
    {
      unit: 'asset',
      after: ['placed bindings'],
      check: checkMutes,
    },
    {
      unit: 'asset',
      check(inputs, asset, report) {
        checkPlacements(inputs, asset, report);
        checkSpawns(inputs, asset, report);
        checkEvents(inputs, asset, report);
        checkLiterals(inputs, declaredLiterals(inputs, asset), report);
      },
    },
    {
      unit: 'project',
      after: ['types'],
      check(inputs, _, report) {
        checkLoadSets(inputs, report);
        checkEnums(inputs, report);
      },
    },
    {
      unit: 'binding',
      concerns: ({ if: conditions }) => hasConditions(conditions),
      check: checkConditions,
    },
    {
      unit: 'binding',
      concerns: hasLiterals,
      check: (inputs, unit, report) => checkLiterals(inputs, boundLiterals(inputs, unit), report),
    },
  ],
});

function send(
  report: Send,
  { class: cls, message = cls }: { class: Message; message?: Message },
  { subject, occurrences }: { subject: Subject; occurrences: Iterable<number> },
  data: { who: string; name: string; asset: string },
  known: Iterable<string>,
): void {
  report({
    class: cls,
    message,
    subject,
    occurrences,
    data: () => data,
    evidence: () => namesEvidence(data.name, known),
  });
}

/** What a placement mutes is looked up among the bindings of its asset. */
function checkMutes(inputs: AnalysisInputs, owner: AssetIndex, report: Send): void {
  owner.placements.forEach((p, slot) => {
    if (!p.muted || p.muted.length === 0) return;
    const placed = inputs.index.assets[owner.placed[slot]] as AssetIndex | undefined;
    for (const name of placed ? p.muted : []) {
      if (placed!.bindingAt.has(name)) continue;
      const subject = { asset: owner.decl.id, placement: p.id, name };
      const data = { who: p.id, asset: placed!.decl.id, name };
      const where = inputs.instancesOfPlacement(owner.at, slot);
      send(
        report,
        { class: 'muted' },
        { subject: subject, occurrences: where },
        data,
        placed!.bindingAt.keys(),
      );
    }
  });
}

/** What a condition asks is looked up where the binding's source leads; a source that leads nowhere is reported as such. */
function checkConditions(
  inputs: AnalysisInputs,
  { binding, owner, position, ends }: BindingUnit,
  report: Send,
): void {
  const { payload, reader } = ends;
  const { from } = binding;
  const seen = new Set<string>();
  const reportName = (
    name: string,
    of: string,
    known: Iterable<string>,
    message: 'condition' | 'conditionProperty',
  ): void => {
    seen.add(name);
    const subject = { asset: owner.decl.id, binding: binding.id, name };
    const data = { who: bindingWords(binding), name, asset: of };
    send(
      report,
      { class: 'condition', message: message },
      { subject: subject, occurrences: inputs.ownersOf(owner.at, position) },
      data,
      known,
    );
  };
  for (const c of binding.if!) {
    const name = 'payload' in c ? c.payload : c.property;
    if (seen.has(name)) continue;
    if ('payload' in c) {
      if (!payload || fieldNamed(payload, name)) continue;
      const of = 'channel' in from ? `#${from.channel}` : from.event;
      const known = payload.map((f) => f.name);
      reportName(name, of, known, 'condition');
    } else if (reader && !reader.propertyAt.has(name)) {
      reportName(name, reader.decl.id, reader.propertyAt.keys(), 'conditionProperty');
    }
  }
}

function checkLiterals(inputs: AnalysisInputs, literals: readonly Literal[], report: Send): void {
  for (const { value, type, valueSubject, occurrences, where } of literals) {
    const fault = valueSubject && literalFault(inputs.index, value, type);
    if (!fault || fault.kind === 'table') continue;
    const data = { who: where, name: JSON.stringify(value), asset: type };
    send(report, { class: 'value' }, { subject: valueSubject, occurrences: occurrences }, data, []);
  }
}

function checkPlacements(inputs: AnalysisInputs, owner: AssetIndex, report: Send): void {
  const peers = new Set((inputs.index.project.peers ?? []).map((p) => p.name));
  owner.placements.forEach((p, slot) => {
    const subject = { asset: owner.decl.id, placement: p.id };
    const where = (): number[] => inputs.instancesOfPlacement(owner.at, slot);
    const placed = inputs.index.assets[owner.placed[slot]] as AssetIndex | undefined;
    if (placed) {
      const data = { who: p.id, asset: placed.decl.id };
      for (const name of Object.keys(p.properties ?? {})) {
        if (placed.propertyAt.has(name)) continue;
        const own = { ...subject, property: name };
        send(
          report,
          { class: 'override' },
          { subject: own, occurrences: where() },
          { ...data, name },
          placed.propertyAt.keys(),
        );
      }
      for (const [path, values] of Object.entries(p.inside ?? {})) {
        const inner = assetInside(inputs.index, placed, path);
        if (!inner) {
          const known = placed.placementAt.keys();
          const missing = { ...data, name: path };
          send(
            report,
            { class: 'override', message: 'inside' },
            { subject: { ...subject, name: path }, occurrences: where() },
            missing,
            known,
          );
          continue;
        }
        for (const name of Object.keys(values)) {
          if (inner.propertyAt.has(name)) continue;
          const said = { who: `${p.id}/${path}`, asset: inner.decl.id, name };
          const own = { ...subject, property: `${path}.${name}` };
          send(
            report,
            { class: 'override' },
            { subject: own, occurrences: where() },
            said,
            inner.propertyAt.keys(),
          );
        }
      }
    }
    for (const name of peers.size > 0 ? [p.authority, p.operator] : []) {
      if (name === undefined || peers.has(name)) continue;
      send(
        report,
        { class: 'peer' },
        { subject: { ...subject, name }, occurrences: where() },
        { who: p.id, name, asset: '' },
        peers,
      );
    }
  });
}

function checkSpawns(inputs: AnalysisInputs, asset: AssetIndex, report: Send): void {
  for (const { action, effect } of asset.effects) {
    if (!('spawn' in effect)) continue;
    const spawned = spawnable(inputs.index, effect.spawn);
    for (const name of Object.keys(effect.properties ?? {})) {
      if (!spawned || spawned.propertyAt.has(name)) continue;
      const subject = {
        asset: asset.decl.id,
        action: asset.actions[action].name,
        effect: effectName(effect),
        property: name,
      };
      const data = { who: subject.action, name, asset: spawned.decl.id };
      send(
        report,
        { class: 'override' },
        { subject: subject, occurrences: inputs.instancesOf(asset.at) },
        data,
        spawned.propertyAt.keys(),
      );
    }
  }
}

function checkEvents(inputs: AnalysisInputs, asset: AssetIndex, report: Send): void {
  for (const { name: event, cause } of asset.events) {
    const about = (name: string): Subject => ({ asset: asset.decl.id, event, name });
    if (cause.type === 'change' && !asset.propertyAt.has(cause.property)) {
      const data = { who: event, name: cause.property, asset: asset.decl.id };
      send(
        report,
        { class: 'property' },
        { subject: about(cause.property), occurrences: inputs.instancesOf(asset.at) },
        data,
        asset.propertyAt.keys(),
      );
    }
    const list = ('activators' in cause && cause.activators) || [];
    const idle = list.filter((entry) => !activatorMatches(inputs.index, entry));
    // Where none matches, nobody at all can raise it, and another rule says that.
    if (idle.length === list.length) continue;
    for (const name of idle) {
      const data = { who: event, name, asset: '' };
      send(
        report,
        { class: 'activator' },
        { subject: about(name), occurrences: inputs.instancesOf(asset.at) },
        data,
        inputs.index.assetAt.keys(),
      );
    }
  }
}

function checkLoadSets(inputs: AnalysisInputs, report: Send): void {
  const scenes = new Set(
    inputs.index.assets.flatMap(({ decl: { id, kind } }) => (kind === 'scene' ? [id] : [])),
  );
  for (const set of inputs.index.project.loadSets ?? []) {
    for (const name of set.scenes) {
      if (scenes.has(name)) continue;
      send(
        report,
        { class: 'scene' },
        { subject: { loadSet: set.name, name }, occurrences: [] },
        { who: set.name, name, asset: '' },
        scenes,
      );
    }
  }
}

function checkEnums(inputs: AnalysisInputs, report: Send): void {
  const declared = (inputs.index.project.enums ?? []).map((e) => e.name);
  const known = new Set(declared);
  for (const type of typesUsed(inputs)) {
    if (!type.startsWith('enum:') || known.has(type.slice(5))) continue;
    const name = type.slice(5);
    send(
      report,
      { class: 'enum' },
      { subject: { name }, occurrences: [] },
      { who: '', name, asset: '' },
      declared,
    );
  }
}
function typesUsed(inputs: AnalysisInputs): Set<Type> {
  const types = new Set<Type>();
  for (const c of inputs.index.project.channels ?? []) for (const f of c.payload ?? []) types.add(f.type);
  for (const a of inputs.index.assets) {
    for (const p of a.properties) types.add(p.type);
    for (const e of a.events) for (const f of e.payload ?? []) types.add(f.type);
    for (const action of a.actions) for (const f of action.params ?? []) types.add(f.type);
  }
  return types;
}
