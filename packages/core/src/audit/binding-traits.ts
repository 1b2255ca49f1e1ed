import type { Binding, KeyExpr } from '../project/types.js';
import { isLiteral } from '../project/value.js';

/** What few bindings do, and much depends on: those that do are kept at hand ({@link AnalysisInputs.bindingsThat}). */
export const BINDING_TRAITS = {
  /** It is made when its owner starts, not at load. */
  'begin at start': ({ origin, bind }: Binding) => origin === 'code' && bind === 'start',
  /** When its owner ends, it releases all bindings of its event, its own and others. */
  'release all': ({ origin, release }: Binding) => origin === 'code' && release === 'all',
  /** It is never released, though what it is made in may end. */
  'release nothing': ({ origin, release }: Binding) => origin === 'code' && release === 'never',
  /** Its edges depend on values. */
  'read values': ({ from, to }: Binding) => {
    if ('channel' in from && isProperty(from.key)) return true;
    if ('channel' in to) return isProperty(to.key);
    return 'every' in to && to.match !== undefined && to.match !== 'all';
  },
  /** It leads to what does not stand in its owner: by an absolute path, or a selection in the whole project. */
  'lead far': ({ from, to }: Binding) => {
    if ('at' in from && from.at.includes(':')) return true;
    if ('at' in to && to.at.includes(':')) return true;
    return 'every' in to && to.within === 'project';
  },
  /** A path goes through a stand-in: where it leads depends on the copy, not only on the text. */
  'lead through a stand-in': ({ from, to }: Binding) =>
    ('at' in from && from.at.includes('~')) || ('at' in to && to.at.includes('~')),
} as const;
export type BindingTrait = keyof typeof BINDING_TRAITS;

export function isProperty(key: KeyExpr | undefined): boolean {
  return key !== undefined && !isLiteral(key);
}
