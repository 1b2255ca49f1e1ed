import { changesGate, type Change, type Project } from '@oquel/core';
import { listMembers, whoSigned, type Member, type Role } from '../api/team.js';
import { signedHere } from './signed.js';

/** What somebody may do in an open project, and who may do more. */
export interface Access {
  role: Role;
  members: readonly Member[];
}
/** Thrown where somebody has no role in a project any more. */
export class NoRole extends Error {
  override readonly name = 'NoRole';
}

/** One's own access to a project; null where nobody has to sign in. @throws NoRole */
export async function accessTo(project: string): Promise<Access | null> {
  if (!signedHere().team) return null;
  const { account, role } = await whoSigned(project);
  if (!account || !role) {
    throw new NoRole(
      'You have no role in this project, or it is gone. A lead of the project can give you one.',
    );
  }
  return { role, members: await listMembers(project) };
}

/** Why somebody may not make some changes, with who may; null if they may. No changes stand for any that are no gate's. */
export function refusalIn(
  access: Access | null,
  project: Project,
  changes: readonly Change[],
): string | null {
  if (!access || access.role === 'lead') return null;
  if (access.role === 'reader') {
    return `You are a reader of this project: you may look, rehearse and export.${whoMay(access, ['designer', 'lead'], 'edit')}`;
  }
  if (!changes.some((change) => changesGate(project, change))) return null;
  return `Policy and waivers that count take a lead of this project.${whoMay(access, ['lead'], 'change them')}`;
}
function whoMay({ members }: Access, roles: readonly Role[], what: string): string {
  const names = members.filter((m) => roles.includes(m.role)).map((m) => m.name);
  if (names.length === 0) return ` An administrator may ${what}.`;
  const shown = names.slice(0, 3).join(', ');
  return ` ${names.length > 3 ? `${shown} and ${names.length - 3} more` : shown} may ${what}.`;
}
/** Whether what somebody waives counts at once, or is a proposal. */
export function waivesAtOnce(access: Access | null): boolean {
  return access === null || access.role === 'lead';
}
