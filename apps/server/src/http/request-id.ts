import { randomUUID } from 'node:crypto';
import type { NextFunction, Request, Response } from 'express';

/** Every request has an id, which its log lines, its answer and its problem carry. */
export function requestIds(request: Request, response: Response, next: NextFunction): void {
  const id = randomUUID();
  Object.assign(request, { id });
  response.setHeader('X-Request-Id', id);
  next();
}
