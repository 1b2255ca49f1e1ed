import { signedOut } from '../api/client.js';
import { whoSigned, type Signed } from '../api/team.js';

type Here = Pick<Signed, 'team' | 'account' | 'sso'>;
/** A start is not held up by a server that does not answer. */
const WAIT_MS = 5000;

/** Until it is known nobody has to sign in; whatever the server refuses then says otherwise. */
let here: Here = { team: false, account: null, sso: null };
const listeners = new Set<() => void>();
function set(next: Here): void {
  here = next;
  for (const listener of listeners) listener();
}
signedOut.happened = () => {
  if (here.account !== null || !here.team) set({ ...here, team: true, account: null });
};

/** Who has signed in in this browser, and whether anybody has to. */
export function signedHere(): Here {
  return here;
}
/** A name under which this browser keeps something that is a person's own, where people sign in. */
export function ofPerson(name: string): string {
  return here.account === null ? name : `${name}-${here.account.id}`;
}
export function onSigned(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
/** Asks the server, before anything is drawn. */
export async function learnWhoSigned(): Promise<void> {
  const late = new Promise<null>((resolve) => setTimeout(resolve, WAIT_MS, null));
  const signed = await Promise.race([whoSigned().catch(() => null), late]);
  if (signed) set({ team: signed.team, account: signed.account, sso: signed.sso });
}
