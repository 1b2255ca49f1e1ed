import { api, settle, soon } from './client.js';
import type { components } from './schema.js';

type Schemas = components['schemas'];
export type Signed = Schemas['SessionDto'];
export type Person = Schemas['PersonDto'];
export type Member = Schemas['MemberDto'];
export type Role = Member['role'];
export type Invitation = Schemas['InvitationDto'];
export type Invited = Schemas['InvitedDto'];
export type Offer = Schemas['OfferDto'];
export type ProjectToken = Schemas['ProjectTokenDto'];
export type Scope = ProjectToken['scopes'][number];
export type OwnSession = Schemas['OwnSessionDto'];
export type SecurityEntry = Schemas['SecurityEntryDto'];

/** Who has signed in in this browser, and their role in a project. */
export function whoSigned(project?: string): Promise<Signed> {
  return settle(api.GET('/api/session', { params: { query: { project } }, ...soon() }));
}
export function signIn(body: Schemas['SignInDto']): Promise<Schemas['OwnAccountDto']> {
  return settle(api.POST('/api/session', { body, ...soon() }));
}
export function signOut(): Promise<void> {
  return settle(api.DELETE('/api/session', soon()));
}
export function offerOf(secret: string): Promise<Offer> {
  return settle(api.POST('/api/join/offer', { body: { secret }, ...soon() }));
}
export function join(body: Schemas['JoinDto']): Promise<Schemas['OwnAccountDto']> {
  return settle(api.POST('/api/join', { body, ...soon() }));
}
export function changePassword(body: Schemas['PasswordDto']): Promise<void> {
  return settle(api.POST('/api/account/password', { body, ...soon() }));
}
export function ownSessions(): Promise<OwnSession[]> {
  return settle(api.GET('/api/account/sessions', soon()));
}
export function endSession(session: string): Promise<void> {
  return settle(api.DELETE('/api/account/sessions/{session}', { params: { path: { session } }, ...soon() }));
}

export function listPeople(): Promise<Person[]> {
  return settle(api.GET('/api/people', soon()));
}
export function peopleNames(): Promise<Schemas['PersonNameDto'][]> {
  return settle(api.GET('/api/people/names', soon()));
}
export function changePerson(person: string, body: Schemas['PersonChangeDto']): Promise<void> {
  return settle(api.PATCH('/api/people/{person}', { params: { path: { person } }, body, ...soon() }));
}
export function renewPassword(person: string): Promise<Invited> {
  return settle(api.POST('/api/people/{person}/password', { params: { path: { person } }, ...soon() }));
}
export function securityLog(before?: string): Promise<SecurityEntry[]> {
  return settle(api.GET('/api/security-log', { params: { query: { before } }, ...soon() }));
}

/** Invitations to the server, or to one project. */
export function listInvitations(project: string | null): Promise<Invitation[]> {
  if (project === null) return settle(api.GET('/api/invitations', soon()));
  return settle(api.GET('/api/projects/{id}/invitations', { params: { path: { id: project } }, ...soon() }));
}
export function invite(body: Schemas['InviteDto']): Promise<Invited> {
  return settle(api.POST('/api/invitations', { body, ...soon() }));
}
export function inviteMember(id: string, body: Schemas['InviteMemberDto']): Promise<Invited> {
  return settle(api.POST('/api/projects/{id}/invitations', { params: { path: { id } }, body, ...soon() }));
}
export function withdraw(project: string | null, invitation: string): Promise<void> {
  if (project === null) {
    const params = { path: { invitation } };
    return settle(api.DELETE('/api/invitations/{invitation}', { params, ...soon() }));
  }
  const params = { path: { id: project, invitation } };
  return settle(api.DELETE('/api/projects/{id}/invitations/{invitation}', { params, ...soon() }));
}

export function listMembers(id: string): Promise<Member[]> {
  return settle(api.GET('/api/projects/{id}/members', { params: { path: { id } }, ...soon() }));
}
/** Gives somebody a role in a project; null takes it away. */
export function setRole(id: string, person: string, role: Role | null): Promise<void> {
  const params = { path: { id, person } };
  if (role === null) return settle(api.DELETE('/api/projects/{id}/members/{person}', { params, ...soon() }));
  return settle(api.PUT('/api/projects/{id}/members/{person}', { params, body: { role }, ...soon() }));
}
export function listTokens(id: string): Promise<ProjectToken[]> {
  return settle(api.GET('/api/projects/{id}/tokens', { params: { path: { id } }, ...soon() }));
}
export function makeToken(id: string, body: Schemas['NewTokenDto']): Promise<Schemas['MadeTokenDto']> {
  return settle(api.POST('/api/projects/{id}/tokens', { params: { path: { id } }, body, ...soon() }));
}
export function revokeToken(id: string, token: string): Promise<void> {
  const params = { path: { id, token } };
  return settle(api.DELETE('/api/projects/{id}/tokens/{token}', { params, ...soon() }));
}
