import { Inject, Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { isUUID } from 'class-validator';
import { CONFIG, type Config } from '../config.js';
import { noSuchProject } from '../http/problem.js';
import type { Actor, Asked } from './actor.js';
import { Members } from './members.js';
import { isAtLeast, RULE, type Role, type Rule } from './roles.js';
import { addressOf, SecurityLog } from './security.log.js';
import { Sessions } from './sessions.js';
import { noTeam, notAllowed, notAllowedByToken, signInFirst, teamsOwn } from './team.problems.js';
import { bearerOf, Tokens } from './tokens.js';

/**
 * Lets a request through that the rule of its route allows, and says who makes it. Where nobody signs in, everybody may do
 * everything that is not about people. A project in which somebody has no role is, for them, not there.
 */
@Injectable()
export class AccessGuard implements CanActivate {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    @Inject(Reflector) private readonly reflector: Reflector,
    @Inject(Sessions) private readonly sessions: Sessions,
    @Inject(Tokens) private readonly tokens: Tokens,
    @Inject(Members) private readonly members: Members,
    @Inject(SecurityLog) private readonly log: SecurityLog,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const handler = context.getHandler();
    const rule = this.reflector.get<Rule | undefined>(RULE, handler);
    if (!rule) throw new Error(`${context.getClass().name}.${handler.name} does not say who may call it`);
    const request = context.switchToHttp().getRequest<Asked>();
    if (!this.config.team) {
      if (rule.only === 'team') throw noTeam();
      request.actor = null;
      return true;
    }
    if (rule.only === 'alone') throw teamsOwn();
    request.actor = await this.allowed(request, rule);
    return true;
  }

  private async allowed(request: Asked, rule: Rule): Promise<Actor | null> {
    const { id } = request.params as { id?: string };
    const project = id !== undefined && isUUID(id) ? id : null;
    const token = bearerOf(request);
    if (token !== null && rule.who !== 'anybody') return this.byToken(token, project, rule);
    const actor = await this.sessions.actor(request, project);
    if (rule.who === 'anybody') return actor;
    if (!actor) throw signInFirst();
    if (rule.who === 'account') return actor;
    if (rule.who === 'administrator') {
      if (actor.isAdministrator) return actor;
      throw await this.refused(request, actor, rule, []);
    }
    if (project === null || actor.role === null) throw noSuchProject();
    if (isAtLeast(actor.role, rule.who)) return actor;
    throw await this.refused(request, actor, rule, await this.members.whoMay(project, rule.who));
  }
  private async byToken(token: string, project: string | null, rule: Rule): Promise<Actor> {
    const actor = await this.tokens.actor(token);
    if (!actor) throw signInFirst();
    const { project: own, scopes, ...rest } = actor;
    if (rule.scope === null || !scopes.includes(rule.scope)) throw notAllowedByToken();
    if (project !== own) throw noSuchProject();
    return { ...rest, role: rule.who as Role };
  }
  private async refused(request: Asked, { name }: Actor, { who }: Rule, may: string[]): Promise<Error> {
    const from = addressOf(request);
    const { id } = request.params as { id?: string };
    const project = id !== undefined && isUUID(id) ? id : null;
    const detail = `${request.method} ${request.path} takes ${who}`;
    await this.log.write({ what: 'refused', who: name, from, project, detail });
    return notAllowed(who, may);
  }
}
