import type { Change, FindingChange } from '@oquel/core';
import { useEffect, useState } from 'react';
import { useSession } from './session-context.js';

/**
 * What changes would do to the findings; null while that is not known, or if they could not be applied. It is asked
 * `delay` milliseconds after the changes have come to rest, since each answer costs an audit.
 */
export function usePreview(changes: readonly Change[] | null, delay = 0): FindingChange | null {
  const session = useSession();
  const [found, setFound] = useState<FindingChange | null>(null);
  useEffect(() => {
    setFound(null);
    if (!changes || changes.length === 0) return;
    let current = true;
    const timer = setTimeout(() => {
      session.preview([...changes]).then(
        (change) => current && setFound(change),
        // Without it what is shown besides still stands.
        () => undefined,
      );
    }, delay);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [session, changes, delay]);
  return found;
}
