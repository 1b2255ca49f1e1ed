import { applyDecorators, SetMetadata } from '@nestjs/common';
import { ApiExtension } from '@nestjs/swagger';
import type { Role, Scope } from '../database/schema.js';

export type { Role, Scope };
/** Each may do what those before it may. */
export const ROLES: readonly Role[] = ['reader', 'designer', 'lead'];
export const SCOPES: readonly Scope[] = ['audit', 'declarations', 'plays'];

/** Who may call a route: anybody, anybody who has signed in, somebody with a role in the project `:id`, an administrator. */
export interface Rule {
  who: 'anybody' | 'account' | 'administrator' | Role;
  /** A token of that scope may, too. */
  scope: Scope | null;
  /** The route is there on a team's server only, or only where nobody signs in; null: on both. */
  only: 'team' | 'alone' | null;
}
export const RULE = Symbol('rule');

/** Says who may call a route; every route says so. It stands in the description of the API as `x-oquel-needs`. */
export function Needs(
  who: Rule['who'],
  { scope = null, only = null }: Partial<Omit<Rule, 'who'>> = {},
): MethodDecorator {
  const rule: Rule = { who, scope, only };
  return applyDecorators(
    SetMetadata(RULE, rule),
    ApiExtension('x-oquel-needs', {
      who,
      ...(scope === null ? {} : { scope }),
      ...(only === null ? {} : { only }),
    }),
  );
}

/** Whether a role is as much as another one. */
export function isAtLeast(role: Role | null, wanted: Role): boolean {
  return role !== null && ROLES.indexOf(role) >= ROLES.indexOf(wanted);
}
