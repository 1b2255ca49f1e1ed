import { effectName } from '../../project/effect-name.js';
import { canHold, type Question } from '../../project/can-hold.js';
import type { AssetIndex } from '../../project/index-project.js';
import type { Binding, Effect } from '../../project/types.js';
import { printConditions } from '../../wireline/conditions.js';
import { printGuard } from '../../wireline/declared.js';
import { askingBindings } from '../asking.js';
import type { AuditContext } from '../context.js';
import { bindingsEvidence, namesEvidence } from '../evidence.js';
import { askedOf } from '../literals.js';
import { defineRule, type Report } from '../rule.js';
import { textEnds } from '../text-ends.js';
import { bindingWords } from '../../wireline/binding-words.js';

type Message = 'binding' | 'effect';

export const neverTrue = defineRule<Message>({
  meta: {
    name: 'never-true',
    severity: 'warning',
    group: 'correctness',
    what: 'A condition of a binding or an effect can never hold: no value satisfies all of it.',
    why: 'It looks wired, but never runs.',
    cure: 'Correct the condition: usually two limits are swapped, or one field is compared with two values.',
  },
  messages: {
    binding: '"{binding}" acts only {asked}, which no value satisfies',
    effect: '{action} of {asset} has {effect} only when {asked}, which no value satisfies',
  },
  check(ctx, report) {
    for (const owner of ctx.index.assets) {
      for (const at of askingBindings(ctx, owner)) {
        const binding = owner.bindings[at];
        if (!ctx.isJudged(owner.at, at)) continue;
        const { never } = ctx.perAuthored('never true', binding, () => ({
          never: isNever(ctx, owner, binding),
        }));
        if (!never) continue;
        const subject = { asset: owner.decl.id, binding: binding.id };
        report({
          subject,
          occurrences: ctx.ownersOf(owner.at, at),
          message: 'binding',
          data: { binding: bindingWords(binding), asked: printConditions(binding.if) },
          evidence: bindingsEvidence([subject]),
        });
      }
    }
    const effects = ctx.oncePlaced('never-true', () => {
      const found: Report<Message>[] = [];
      for (const asset of ctx.index.assets) checkEffects(ctx, asset, (r) => found.push(r));
      return found;
    });
    effects.forEach(report);
  },
});

/** Judged where both ends are there; for another end another rule speaks. */
function isNever(ctx: AuditContext, owner: AssetIndex, binding: Binding): boolean {
  const ends = textEnds(ctx, owner, binding);
  if (!ends.resolved()) return false;
  const questions = binding.if!.flatMap((c): Question[] => {
    const { name, type } = askedOf(c, ends);
    if (type === undefined) return [];
    const isField = 'payload' in c;
    const optional = isField && ends.payload!.some((f) => f.name === name && f.optional === true);
    return [{ of: `${isField ? '$' : '@'}${name}`, type, optional, is: c.is }];
  });
  return !canHold(ctx.index, questions);
}

function checkEffects(ctx: AuditContext, asset: AssetIndex, report: (r: Report<Message>) => void): void {
  for (const { action, effect } of asset.effects) {
    const question = questionOf(asset, action, effect);
    if (!question || canHold(ctx.index, [question])) continue;
    const subject = {
      asset: asset.decl.id,
      action: asset.actions[action].name,
      effect: effectName(effect),
    };
    const asked = printGuard(effect.when!);
    report({
      subject,
      occurrences: ctx.instancesOf(asset.at),
      message: 'effect',
      data: { ...subject, asked },
      evidence: namesEvidence(asked, []),
    });
  }
}
function questionOf(asset: AssetIndex, action: number, { when }: Effect): Question | null {
  if (!when) return null;
  const field =
    'param' in when ? asset.actions[action].params?.find((p) => p.name === when.param) : undefined;
  const property =
    'property' in when ? asset.properties[asset.propertyAt.get(when.property) ?? -1] : undefined;
  const type = field?.type ?? property?.type;
  return type === undefined ? null : { of: '', type, optional: field?.optional === true, is: when.is };
}
