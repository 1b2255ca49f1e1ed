import type { NextFunction, Request, Response } from 'express';
import type { Config } from '../config.js';
import { ProblemError } from './problem.js';

const LOOPBACK = ['localhost', '127.0.0.1', '[::1]'];

/**
 * Refuses requests that a page of another site could have brought about: the Host must be one of ours (so that a
 * foreign name cannot be pointed at loopback), and an Origin, if given, the same as the Host.
 */
export function hostAndOrigin(config: Config) {
  const allowed = new Set([...LOOPBACK, ...config.allowedHosts]);
  return (request: Request, _response: Response, next: NextFunction): void => {
    const host = request.headers.host ?? '';
    if (!allowed.has(host.replace(/:\d+$/, ''))) {
      return next(new ProblemError(421, 'wrong-host', 'Wrong host', `this server is not called "${host}"`));
    }
    const { origin } = request.headers;
    if (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`) {
      return next(
        new ProblemError(403, 'wrong-origin', 'Wrong origin', `requests from "${origin}" are refused`),
      );
    }
    next();
  };
}
