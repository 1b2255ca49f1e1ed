import { ProblemError } from '../http/problem.js';
import type { Rule } from './roles.js';

const NEEDED: Record<Rule['who'], string> = {
  anybody: '',
  account: 'somebody who has signed in',
  administrator: 'an administrator of this server',
  reader: 'a reader of this project',
  designer: 'a designer of this project',
  lead: 'a lead of this project',
};

export function signInFirst(): ProblemError {
  return new ProblemError(401, 'sign-in', 'Sign in first', 'sign in, or send a token that holds');
}
/** `may`: names of those who may. */
export function notAllowed(who: Rule['who'], may: readonly string[]): ProblemError {
  const names = may.length === 0 ? '' : `: ${may.join(', ')}`;
  const detail = `this takes ${NEEDED[who]}${names}`;
  return new ProblemError(403, 'not-allowed', 'You may not do this', detail, { needs: who, may });
}
export function notAllowedByToken(): ProblemError {
  return new ProblemError(
    403,
    'not-allowed',
    'The token is not for this',
    'this token was not made for this; use another one',
  );
}
export function noTeam(): ProblemError {
  const detail = 'nobody signs in on this server; started with OQUEL_TEAM=1 it is a team’s';
  return new ProblemError(404, 'no-team', 'No team', detail);
}
export function teamsOwn(): ProblemError {
  const detail = 'on a team’s server this is done with the tokens of the project';
  return new ProblemError(404, 'teams-own', 'Done in another way', detail);
}
export function wrongPassword(): ProblemError {
  return new ProblemError(401, 'wrong-password', 'Not signed in', 'the name or the password is wrong');
}
export function noInvitation(): ProblemError {
  const detail = 'this invitation was used, withdrawn or is too old; ask for another one';
  return new ProblemError(410, 'no-invitation', 'The invitation holds no longer', detail);
}
export function nameTaken(field: 'login' | 'name', value: string): ProblemError {
  const what = field === 'login' ? 'sign-in name' : 'name';
  const detail = `somebody else has the ${what} "${value}"; choose another one`;
  return new ProblemError(409, 'name-taken', 'The name is taken', detail, { fields: [field] });
}
export function noSuch(what: 'person' | 'invitation' | 'session' | 'token'): ProblemError {
  return new ProblemError(404, 'not-found', 'Not found', `there is no ${what} of that id`);
}
export function lastAdministrator(): ProblemError {
  const detail = 'this is the last administrator; make somebody else one first';
  return new ProblemError(409, 'last-administrator', 'The last administrator', detail);
}
