import { useSyncExternalStore, type ReactNode } from 'react';
import { onSigned, signedHere } from '../../session/signed.js';
import { later } from '../later.js';

/** Where an invitation is accepted; whoever follows one has no account yet. */
export const JOIN = '/join';
const SignIn = later(async () => (await import('./sign-in.js')).SignIn, { isHeavy: true });

/** The application, once somebody has signed in, where that is asked for. What they had open is at its address afterwards. */
export function SignedIn({ children }: { children: ReactNode }): ReactNode {
  const { team, account } = useSyncExternalStore(onSigned, signedHere);
  if (team && !account && window.location.pathname !== JOIN) return <SignIn />;
  return children;
}
