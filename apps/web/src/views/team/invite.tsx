import { useState, type ReactNode } from 'react';
import { inviteMember, type Role } from '../../api/team.js';
import { InviteForm } from '../../parts/team/invite-form.js';
import { RoleSelect } from './role-select.js';

/** Invites somebody to the project, with a role in it. */
export function Invite({ id }: { id: string }): ReactNode {
  const [role, setRole] = useState<Role>('designer');
  return (
    <InviteForm label="Invite" onInvite={(note) => inviteMember(id, { note, role })}>
      <RoleSelect label="Role offered" value={role} onValue={setRole} />
    </InviteForm>
  );
}
