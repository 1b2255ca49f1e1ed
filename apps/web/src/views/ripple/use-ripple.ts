import { useEffect, useState } from 'react';
import { useSession, useSessionState } from '../../session/session-context.js';
import type { RippleAnswer, RippleQuestion } from '../../workers/auditor-answers.js';

export type Rippling =
  | { state: 'waiting' }
  | { state: 'nowhere' }
  | { state: 'failed'; why: string }
  | { state: 'there'; answer: RippleAnswer };

/** The ripple that is asked for; while another is worked out the last one stays. It follows every edit. */
export function useRipple(question: RippleQuestion): Rippling {
  const session = useSession();
  const { project } = useSessionState();
  const [rippling, setRippling] = useState<Rippling>({ state: 'waiting' });
  // Infinity is no JSON.
  const asked = JSON.stringify(question);
  useEffect(() => {
    let current = true;
    session.ripple(JSON.parse(asked) as RippleQuestion).then(
      (answer) => current && setRippling(answer ? { state: 'there', answer } : { state: 'nowhere' }),
      (error: unknown) =>
        current &&
        setRippling({ state: 'failed', why: error instanceof Error ? error.message : String(error) }),
    );
    return () => {
      current = false;
    };
  }, [session, project, asked]);
  return rippling;
}
