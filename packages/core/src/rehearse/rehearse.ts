import { mutedBindings } from '../graph/resolver.js';
import { canonicalJson } from '../project/canonical.js';
import type { Expansion } from '../expand/expansion.js';
import type { Rehearsal } from '../project/types.js';
import { RehearsalModel } from './rehearsal-model.js';
import type { NotRun, TraceRecord, Verdict } from './records.js';
import { prepare } from './run.js';
import { REFUSED, SERVED } from './serving.js';

/** An expanded binding, by the address of its owner. */
export interface BindingAt {
  owner: string;
  binding: string;
}
/** Which of the audit's expanded bindings have served a raise over the rehearsals run. */
export interface Coverage {
  kind: 'coverage';
  served: number;
  total: number;
  unserved: BindingAt[];
}
export interface RehearsalHead {
  kind: 'rehearsal';
  name: string;
  scenes: string[];
}
export type TraceLine = RehearsalHead | TraceRecord | Verdict | NotRun | Coverage;

export interface RehearsalsResult {
  verdicts: (Verdict | NotRun)[];
  coverage: Coverage;
  /** For each authored binding how many of its copies served a raise. */
  byBinding: BindingCoverage[];
  pass: boolean;
}
export interface BindingCoverage {
  asset: string;
  binding: string;
  served: number;
  of: number;
  /** Copies that were asked and served nothing, since their conditions never held; absent for none. */
  refused?: number;
}

/**
 * Runs rehearsals, one after the other, each from a fresh start. `take` gets the lines of the trace; records only
 * where they are asked for, since most runs are reported by their verdicts. Yields now and then so that a run can be
 * given up. Cost: what is taken from the queue, and once for each the expanded bindings of its scenes.
 */
export function* runRehearsals(
  x: Expansion,
  rehearsals: readonly Rehearsal[],
  take: ((line: TraceLine) => void) | null,
  records: boolean,
): Generator<undefined, RehearsalsResult> {
  const model = new RehearsalModel(x);
  const served = new Uint8Array(x.bindingBase[x.count]);
  const verdicts: (Verdict | NotRun)[] = [];
  for (const rehearsal of rehearsals) {
    const ready = prepare(model, rehearsal, served, records ? take : null);
    let verdict: Verdict | NotRun;
    if ('run' in ready) {
      take?.({ kind: 'rehearsal', name: rehearsal.name, scenes: ready.scenes });
      verdict = yield* ready.run.go();
    } else verdict = ready;
    take?.(verdict);
    verdicts.push(verdict);
  }
  const coverage = coverageOf(x, served);
  take?.(coverage);
  return { verdicts, coverage, byBinding: byBinding(x, served), pass: verdicts.every((v) => v.pass) };
}

/** The same at one go. */
export function rehearse(
  x: Expansion,
  rehearsals: readonly Rehearsal[],
  take: ((line: TraceLine) => void) | null = null,
  records = take !== null,
): RehearsalsResult {
  const run = runRehearsals(x, rehearsals, take, records);
  for (;;) {
    const step = run.next();
    if (step.done) return step.value;
  }
}

/** A line of the trace as text: canonical JSON, without what is kept for people alone. */
export function traceText(line: TraceLine): string {
  if (line.kind !== 'stopped' || !line.found) return `${canonicalJson(line)}\n`;
  const { found: _found, ...written } = line;
  return `${canonicalJson(written)}\n`;
}

/** The same by authored binding: how many of its copies are marked. Linear in expanded bindings. */
function byBinding(x: Expansion, served: Uint8Array): BindingCoverage[] {
  const found = new Map<string, BindingCoverage>();
  for (let owner = 0; owner < x.count; owner++) {
    const { bindings, decl } = x.assetOf(owner);
    if (bindings.length === 0) continue;
    const muted = mutedBindings(x, owner);
    bindings.forEach(({ id, enabled }, b) => {
      if (enabled === false || muted?.has(id)) return;
      const key = `${decl.id}/${id}`;
      let entry = found.get(key);
      if (!entry) found.set(key, (entry = { asset: decl.id, binding: id, served: 0, of: 0 }));
      entry.of++;
      const mark = served[x.numberOf(owner, b)];
      if (mark === SERVED) entry.served++;
      else if (mark === REFUSED) entry.refused = (entry.refused ?? 0) + 1;
    });
  }
  return [...found.values()];
}

/** Which expanded bindings are enabled and not muted, and which of them are marked. Linear in expanded bindings. */
export function coverageOf(x: Expansion, served: Uint8Array): Coverage {
  const unserved: BindingAt[] = [];
  let total = 0;
  for (let owner = 0; owner < x.count; owner++) {
    const { bindings } = x.assetOf(owner);
    if (bindings.length === 0) continue;
    const muted = mutedBindings(x, owner);
    bindings.forEach(({ id, enabled }, b) => {
      if (enabled === false || muted?.has(id)) return;
      total++;
      if (served[x.numberOf(owner, b)] !== SERVED) unserved.push({ owner: x.address(owner), binding: id });
    });
  }
  return { kind: 'coverage', served: total - unserved.length, total, unserved };
}
