import type { NextFunction, Request, Response } from 'express';
import type { Config } from '../config.js';
import { ProblemError } from './problem.js';

const LOOPBACK = ['localhost', '127.0.0.1', '[::1]'];
const SAFE = ['GET', 'HEAD', 'OPTIONS'];

/**
 * Refuses requests that a page of another site could have brought about: the Host must be one of ours (so that a
 * foreign name cannot be pointed at loopback), and an Origin, if given, the same as the Host.
 */
export function hostAndOrigin(config: Config) {
  const own = config.url === null ? [] : [new URL(config.url).hostname];
  const allowed = new Set([...LOOPBACK, ...config.allowedHosts, ...own].map(plainName));
  return (request: Request, _response: Response, next: NextFunction): void => {
    const host = request.headers.host ?? '';
    if (!allowed.has(plainName(host.replace(/:\d+$/, '')))) {
      const shown = JSON.stringify(host.slice(0, 100));
      const detail = `host ${shown} is not allowed; add it to OQUEL_HOSTS if this server is reached by that name`;
      return next(new ProblemError(421, 'wrong-host', 'Host not allowed', detail));
    }
    const { origin } = request.headers;
    if (origin !== undefined && !isSame(origin, host)) {
      const detail = `requests from ${JSON.stringify(origin.slice(0, 100))} are not allowed`;
      return next(new ProblemError(403, 'wrong-origin', 'Origin not allowed', detail));
    }
    // Browsers say it of every request; a link may lead here from anywhere, but no other site may have something done.
    if (request.headers['sec-fetch-site'] === 'cross-site' && !SAFE.includes(request.method)) {
      return next(
        new ProblemError(403, 'wrong-origin', 'Origin not allowed', 'another site has sent this request'),
      );
    }
    next();
  };
}
/** Names of hosts are compared without case, blanks around them and the dot at the end. */
function plainName(name: string): string {
  return name.trim().toLowerCase().replace(/\.$/, '');
}
function isSame(origin: string, host: string): boolean {
  const own = host.toLowerCase();
  return origin.toLowerCase() === `http://${own}` || origin.toLowerCase() === `https://${own}`;
}
