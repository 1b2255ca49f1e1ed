import type { AssetIndex, BindingCoverage } from '@oquel/core';

/** How many of a thing's bindings rehearsals, or a play, have used. */
export type Covered = 'all' | 'some' | 'none';
/** In how many places something was used, and in how many it is. */
export type Used = Pick<BindingCoverage, 'served' | 'of' | 'refused'> & { inPlay?: true };
/** What rehearsals, or a play, have used, by asset and binding; null while there is nothing to say. */
export type CoverageOf = (asset: string, binding: string) => Used | undefined;

/** For each sender of an owner, by path, how many of the bindings on it were used. Cost: the owner's bindings. */
export function coveredSenders(owner: AssetIndex, coverage: CoverageOf | null): ReadonlyMap<string, Covered> {
  const found = new Map<string, Covered>();
  if (!coverage) return found;
  for (const { id, from } of owner.bindings) {
    const used = coverage(owner.decl.id, id);
    if (!('at' in from) || !used) continue;
    const now = coveredText(used);
    const before = found.get(from.at);
    found.set(from.at, before === undefined || before === now ? now : 'some');
  }
  return found;
}
/** Several bindings taken together; null where rehearsals know none of them. */
export function coverageOfMany(
  bindings: readonly { asset: string; binding: string }[],
  coverage: CoverageOf,
): Used | null {
  const used = bindings.flatMap((b) => coverage(b.asset, b.binding) ?? []);
  if (used.length === 0) return null;
  return {
    served: sum(used.map((u) => u.served)),
    of: sum(used.map((u) => u.of)),
    refused: sum(used.map((u) => u.refused ?? 0)),
    ...(used.some((u) => u.inPlay) ? { inPlay: true } : {}),
  };
}
function sum(numbers: readonly number[]): number {
  return numbers.reduce((a, b) => a + b, 0);
}
export function coveredText({ served, of }: Used): Covered {
  return served === 0 ? 'none' : served === of ? 'all' : 'some';
}
/** Whether it was raised, but its condition was never true. */
export function isOnlyRefused(used: Used): boolean {
  return used.served === 0 && (used.refused ?? 0) > 0;
}
export function coveredWords(used: Used): string {
  const word = used.inPlay ? 'played' : 'rehearsed';
  if (isOnlyRefused(used)) return 'its condition was never true in rehearsals';
  const covered = coveredText(used);
  if (covered === 'all') return word;
  return covered === 'none' ? `not ${word}` : `${word} in ${used.served} of ${used.of} copies`;
}
