import { Inject, Injectable } from '@nestjs/common';
import type { NextFunction, Request, Response } from 'express';
import { CONFIG, type Config } from '../config.js';
import { mayBeLarge } from '../http/bodies.js';
import { Sessions } from './sessions.js';
import { signInFirst } from './team.problems.js';
import { bearerOf, Tokens } from './tokens.js';

/**
 * On a team's server nothing large is read from anybody who has not signed in and has no token: few large bodies are read at a time,
 * and strangers who send slowly would keep everybody else waiting. What they may do is asked of the route, later.
 */
@Injectable()
export class LargeSenders {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    @Inject(Sessions) private readonly sessions: Sessions,
    @Inject(Tokens) private readonly tokens: Tokens,
  ) {}

  check = (request: Request, response: Response, next: NextFunction): void => {
    if (!this.config.team || !mayBeLarge(request)) return next();
    this.isKnown(request).then((known) => {
      if (known) return next();
      response.setHeader('Connection', 'close');
      next(signInFirst());
    }, next);
  };
  private async isKnown(request: Request): Promise<boolean> {
    const token = bearerOf(request);
    if (token !== null) return (await this.tokens.actor(token)) !== null;
    return (await this.sessions.actor(request, null)) !== null;
  }
}
