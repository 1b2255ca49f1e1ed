import { freeBindingId } from '../edit/wiring.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';
import { canonicalJson } from '../project/canonical.js';
import { checkLine } from './check.js';
import { parseWireLine, type LineBinding } from './parse.js';
import type { WireLineFault } from './scanner.js';

/** What one line of a text would become in an owner. */
export interface PastedLine {
  /** Counts from 1. */
  number: number;
  text: string;
  /** `broken`: cannot be read; `wired`: the owner has the same binding already; `faulty`: it would be at fault. */
  state: 'new' | 'wired' | 'faulty' | 'broken';
  binding: Binding | null;
  /** Why it is not simply new, in sentences. */
  reasons: string[];
  fault: WireLineFault | null;
}

/**
 * Reads many wire lines, one in each line of a text; empty lines and those that begin with `//` are passed over. Every
 * binding gets an id that is free: the one that it is named, or one made of its event.
 */
export function readWireLines(index: ProjectIndex, owner: AssetIndex, text: string): PastedLine[] {
  const taken = new Set<string>();
  const there = new Map(owner.bindings.map((b) => [sameness(b), b.id]));
  return text.split(/\r?\n/).flatMap((line, i): PastedLine[] => {
    if (/^\s*(\/\/.*)?$/.test(line)) return [];
    const parsed = parseWireLine(line);
    const common = { number: i + 1, text: line };
    if ('fault' in parsed) {
      const { fault } = parsed;
      return [{ ...common, state: 'broken', binding: null, reasons: [fault.message], fault }];
    }
    const binding = withFreeId(owner, parsed.binding, taken);
    const same = sameness(binding);
    const twin = there.get(same);
    there.set(same, binding.id);
    const reasons = twin !== undefined ? [`${twin} is the same`] : checkLine(index, owner, binding);
    const state = twin !== undefined ? 'wired' : reasons.length > 0 ? 'faulty' : 'new';
    return [{ ...common, state, binding, reasons, fault: null }];
  });
}

/** With the id that it is named, or one made of its event where that is taken. */
export function withFreeId(owner: AssetIndex, { id, ...rest }: LineBinding, taken: Set<string>): Binding {
  const stem = 'channel' in rest.from ? rest.from.channel : rest.from.event;
  const free = id !== undefined && !owner.bindingAt.has(id) && !taken.has(id);
  const own = free ? id : freeBindingId(owner, stem, taken);
  taken.add(own);
  return { id: own, ...rest };
}

/** Equal for bindings that do the same, whatever they are called and noted. */
export function sameness(b: Omit<Binding, 'id'>): string {
  return canonicalJson({ from: b.from, to: b.to, args: b.args ?? {}, delay: b.delay ?? 0, if: b.if ?? [] });
}
