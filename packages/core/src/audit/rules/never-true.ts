import { fieldNamed } from '../../project/fields.js';
import { hasConditions } from '../../project/condition.js';
import { effectName } from '../../project/effect-name.js';
import { canHold, type Question } from '../../project/can-hold.js';
import type { AssetIndex } from '../../project/index-project.js';
import type { Effect } from '../../project/types.js';
import { printConditions } from '../../wireline/conditions.js';
import { printGuard } from '../../wireline/declared.js';
import type { AnalysisInputs } from '../inputs.js';
import { bindingsEvidence, namesEvidence } from '../evidence.js';
import { askedOf } from '../literals.js';
import { defineRule, type TakeReport } from '../rule.js';
import type { BindingUnit } from '../units.js';
import { bindingWords } from '../../wireline/binding-words.js';

type Message = 'binding' | 'effect';

export const neverTrue = defineRule<Message>({
  meta: {
    name: 'never-true',
    severity: 'warning',
    group: 'correctness',
    what: 'A condition of a binding or an effect can never hold: no value satisfies all of it.',
    why: 'It looks wired, but never runs.',
    fix: 'Correct the condition: usually two limits are swapped, or one field is compared with two values.',
  },
  messages: {
    binding: '"{binding}" acts only {asked}, which no value satisfies',
    effect: '{action} of {asset} has {effect} only when {asked}, which no value satisfies',
  },
  parts: [
    {
      unit: 'binding',
      concerns: ({ if: conditions }) => hasConditions(conditions),
      check(inputs, unit, report) {
        if (!isNever(inputs, unit)) return;
        const { binding, owner, position, subject } = unit;
        report({
          subject,
          occurrences: inputs.ownersOf(owner.at, position),
          message: 'binding',
          data: () => ({ binding: bindingWords(binding), asked: printConditions(binding.if) }),
          evidence: () => bindingsEvidence([subject]),
        });
      },
    },
    {
      unit: 'asset',
      check: checkEffects,
    },
  ],
});

/** Judged where both ends are there; for another end another rule speaks. */
function isNever(inputs: AnalysisInputs, { binding, ends }: BindingUnit): boolean {
  if (ends.faults !== 0) return false;
  const questions = binding.if!.flatMap((c): Question[] => {
    const { name, type } = askedOf(c, ends);
    if (type === undefined) return [];
    const isField = 'payload' in c;
    const optional = isField && fieldNamed(ends.payload!, name)?.optional === true;
    return [{ of: `${isField ? '$' : '@'}${name}`, type, optional, is: c.is }];
  });
  return !canHold(inputs.index, questions);
}

function checkEffects(inputs: AnalysisInputs, asset: AssetIndex, report: TakeReport<Message>): void {
  for (const { action, effect } of asset.effects) {
    const question = questionOf(asset, action, effect);
    if (!question || canHold(inputs.index, [question])) continue;
    const subject = {
      asset: asset.decl.id,
      action: asset.actions[action].name,
      effect: effectName(effect),
    };
    const asked = printGuard(effect.when!);
    report({
      subject,
      occurrences: inputs.instancesOf(asset.at),
      message: 'effect',
      data: () => ({ ...subject, asked }),
      evidence: () => namesEvidence(asked, []),
    });
  }
}
function questionOf(asset: AssetIndex, action: number, { when }: Effect): Question | null {
  if (!when) return null;
  const field = 'param' in when ? fieldNamed(asset.actions[action].params, when.param) : undefined;
  const property =
    'property' in when ? asset.properties[asset.propertyAt.get(when.property) ?? -1] : undefined;
  const type = field?.type ?? property?.type;
  return type === undefined ? null : { of: '', type, optional: field?.optional === true, is: when.is };
}
