import { createParamDecorator, type ExecutionContext } from '@nestjs/common';
import type { Request } from 'express';
import type { Role } from './roles.js';

/** Who makes a request of a team's server. A plain object: it goes to worker threads, too. */
export interface Actor {
  kind: 'account' | 'token';
  /** Of the account or the token. */
  id: string;
  /** The name that stands in history, waivers and builds. */
  name: string;
  isAdministrator: boolean;
  /** In the project that the request is about; null where it is about none, or where there is none. */
  role: Role | null;
  /** The session, and when it ends at the latest; null for a token. */
  session: { id: string; until: number } | null;
}
/** A request after the guard: with who makes it, null where nobody has to sign in. */
export type Asked = Request & { actor?: Actor | null };

/** Who makes the request; null where nobody has to sign in. */
export const By = createParamDecorator(
  (_: unknown, context: ExecutionContext): Actor | null =>
    context.switchToHttp().getRequest<Asked>().actor ?? null,
);

/** What is asked, signed by who asks: on a team's server the name is the account's, whatever was typed. */
export function signed<T extends { who: string }>(dto: T, by: Actor | null): T & { by?: Actor } {
  if (!by) return dto;
  return Object.assign(dto, { who: by.name, by });
}
