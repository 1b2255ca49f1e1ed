import type { Finding } from '@oquel/core';

/** Findings of one scope, by the binding and by the event that they speak of. */
export interface FindingsHere {
  ofBinding: ReadonlyMap<string, readonly Finding[]>;
  /** By asset and event, `WindMast/onGust`, or by channel, `#tension`. */
  ofEvent: ReadonlyMap<string, readonly Finding[]>;
}

/** Sorts the findings that are not waived to where they are shown in a scope. */
export function findingsHere(findings: readonly Finding[], scope: string): FindingsHere {
  const ofBinding = new Map<string, Finding[]>();
  const ofEvent = new Map<string, Finding[]>();
  for (const f of findings) {
    if (f.waived) continue;
    const s = f.subject;
    if ('bindings' in s) {
      for (const b of s.bindings) if (b.asset === scope) push(ofBinding, b.binding, f);
    } else if ('binding' in s) {
      if (s.asset === scope) push(ofBinding, s.binding, f);
    } else if ('channel' in s) push(ofEvent, `#${s.channel}`, f);
    else if ('event' in s && (!('name' in s) || f.rule === 'unhandled-value')) {
      // Other names within an event are faults of its declaration, which stands in Plan.
      push(ofEvent, `${s.asset}/${s.event}`, f);
    }
  }
  return { ofBinding, ofEvent };
}
function push(map: Map<string, Finding[]>, key: string, f: Finding): void {
  const list = map.get(key);
  if (list) list.push(f);
  else map.set(key, [f]);
}

/** Those that concern one instance: its address among the occurrences, or any where the scope is no scene. */
export function concerning(findings: readonly Finding[], address: string | null): readonly Finding[] {
  return address === null ? findings : findings.filter((f) => f.occurrences.includes(address));
}
