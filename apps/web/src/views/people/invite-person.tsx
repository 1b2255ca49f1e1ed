import { useState, type ReactNode } from 'react';
import { invite } from '../../api/team.js';
import { InviteForm } from '../../parts/team/invite-form.js';

/** Invites somebody to the server. */
export function InvitePerson(): ReactNode {
  const [isAdministrator, setAdministrator] = useState(false);
  return (
    <InviteForm label="Invite somebody" onInvite={(note) => invite({ note, isAdministrator })}>
      <label className="field">
        <input
          type="checkbox"
          checked={isAdministrator}
          onChange={(e) => setAdministrator(e.target.checked)}
        />
        as administrator
      </label>
    </InviteForm>
  );
}
