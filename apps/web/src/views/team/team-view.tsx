import '../../parts/team/team.css';
import type { ReactNode } from 'react';
import { OpenInvitations } from '../../parts/team/open-invitations.js';
import { useSessionState } from '../../session/session-context.js';
import { Invite } from './invite.js';
import { Members } from './members.js';
import { Tokens } from './tokens.js';

/** Who may do what in the open project, and the tokens of its build servers and games. */
export function TeamView(): ReactNode {
  const { id, access, project } = useSessionState();
  if (!access) {
    return (
      <div className="middle">
        <h1>Nobody signs in here</h1>
        <p>Whoever reaches this server may do everything. Started with OQUEL_TEAM=1 it asks who is there.</p>
      </div>
    );
  }
  const isLead = access.role === 'lead';
  return (
    <section className="teamview" aria-label="People and tokens">
      <h1>People of {project.name}</h1>
      <Members id={id} isLead={isLead} />
      {!isLead && <p className="soft">Leads give and take roles, and make tokens.</p>}
      {isLead && (
        <>
          <h2>Invite somebody who has no account yet</h2>
          <Invite id={id} />
          <OpenInvitations project={id} />
          <h2>Tokens</h2>
          <Tokens id={id} />
        </>
      )}
    </section>
  );
}
