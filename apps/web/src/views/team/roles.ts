import type { Role } from '../../api/team.js';

export const ROLES: readonly Role[] = ['reader', 'designer', 'lead'];
/** What each may do. */
export const ROLE_MEANS: Record<Role, string> = {
  reader: 'looks, rehearses, exports',
  designer: 'edits, and proposes waivers, too',
  lead: 'waives, sets the policy, freezes builds and lets them through, too',
};
