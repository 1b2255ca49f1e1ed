import { useMemo } from 'react';
import type { CoverageOf } from './coverage.js';
import { useSessionState } from './session-context.js';

/** What the play has used that is shown on the wiring, or else what rehearsals use. */
export function useCoverage(): CoverageOf | null {
  const { rehearsed, played } = useSessionState();
  const by = useRehearsed();
  return useMemo(() => {
    if (!played || !rehearsed) return by;
    const all = new Map(rehearsed.byBinding.map((b) => [`${b.asset}/${b.binding}`, b.of]));
    return (asset, binding) => {
      const of = all.get(`${asset}/${binding}`);
      if (of === undefined) return undefined;
      return { served: Math.min(of, played.served.get(`${asset}/${binding}`) ?? 0), of, inPlay: true };
    };
  }, [by, played, rehearsed]);
}
/** What rehearsals use; null while they have not run. */
export function useRehearsed(): CoverageOf | null {
  const { rehearsed } = useSessionState();
  return useMemo(() => {
    if (!rehearsed || rehearsed.verdicts.length === 0) return null;
    const by = new Map(rehearsed.byBinding.map((b) => [`${b.asset}/${b.binding}`, b]));
    return (asset, binding) => by.get(`${asset}/${binding}`);
  }, [rehearsed]);
}
