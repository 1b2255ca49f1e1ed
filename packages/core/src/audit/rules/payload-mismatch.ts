import { fieldNamed } from '../../project/fields.js';
import { argFault, argFaultText, type ArgScope } from '../../project/arg-types.js';
import type { AssetIndex } from '../../project/index-project.js';
import type { Arg, Field } from '../../project/types.js';
import type { AnalysisInputs } from '../inputs.js';
import { bindingsEvidence, namesEvidence } from '../evidence.js';
import { defineRule, type TakeReport } from '../rule.js';
import type { BindingUnit } from '../units.js';
import { own } from '../../util/own.js';
import { bindingWords } from '../../wireline/binding-words.js';

type Message = 'missing' | 'surplus' | 'wrong';
type Send = TakeReport<Message>;

export const payloadMismatch = defineRule<Message>({
  meta: {
    name: 'payload-mismatch',
    severity: 'error',
    group: 'correctness',
    what: 'The arguments of a binding or of a raise do not match its parameters.',
    why: 'The action runs with wrong or missing values, or not at all.',
    fix: 'Give the argument a value of the right type, or remove the extra argument.',
  },
  messages: {
    missing: '{who}: {param} ({type}) has no value',
    surplus: '{who}: there is no parameter "{param}"',
    wrong: '{who}: {param}: {fault}',
  },
  parts: [
    {
      unit: 'binding',
      check: checkBinding,
    },
    {
      unit: 'asset',
      check: checkRaises,
    },
  ],
});

function checkBinding(inputs: AnalysisInputs, unit: BindingUnit, report: Send): void {
  const { binding, owner, position, ends, subject } = unit;
  if (!ends.params || (ends.params.length === 0 && !binding.args) || ends.faults !== 0) return;
  const scope = { index: inputs.index, payload: ends.payload ?? [], reader: ends.reader };
  judge(scope, ends.params, binding.args ?? {}, (param, message, data) =>
    report({
      subject: { ...subject, param },
      occurrences: inputs.ownersOf(owner.at, position),
      evidence: () => bindingsEvidence([subject]),
      message,
      data: () => ({ who: `"${bindingWords(binding)}" in ${owner.decl.id}`, param, ...data }),
    }),
  );
}

/** In the payload of a raise, `payload` reads a parameter of the action, `property` one of the instance itself. */
function checkRaises(inputs: AnalysisInputs, asset: AssetIndex, report: Send): void {
  for (const { action, effect } of asset.effects) {
    if (!('raise' in effect)) continue;
    const event = asset.events[asset.eventAt.get(effect.raise) ?? -1];
    if (!event) continue;
    const { name, params = [] } = asset.actions[action];
    const scope = { index: inputs.index, payload: params, reader: asset };
    const who = `${name} of ${asset.decl.id} raises ${effect.raise}`;
    const known = (event.payload ?? []).map((f) => f.name);
    judge(scope, event.payload ?? [], effect.payload ?? {}, (param, message, data) =>
      report({
        subject: { asset: asset.decl.id, action: name, param },
        occurrences: inputs.instancesOf(asset.at),
        evidence: () => namesEvidence(param, known),
        message,
        data: () => ({ who, param, ...data }),
      }),
    );
  }
}

function judge(
  scope: ArgScope,
  wanted: readonly Field[],
  args: Record<string, Arg>,
  fail: (param: string, message: Message, data: Record<string, string>) => void,
): void {
  for (const field of wanted) {
    if (!Object.hasOwn(args, field.name)) {
      if (!field.optional) fail(field.name, 'missing', { type: field.type });
      continue;
    }
    const fault = argFault(scope, own(args, field.name)!, field.type);
    // A text that is no key of its table is another rule's affair.
    if (fault && fault.kind !== 'table')
      fail(field.name, 'wrong', { fault: argFaultText(fault, field.type) });
  }
  for (const name of Object.keys(args)) if (!fieldNamed(wanted, name)) fail(name, 'surplus', {});
}
