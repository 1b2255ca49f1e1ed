import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import { BrokenDocument, EditRefused, ProjectTooLarge } from '@oquel/core';
import type { NextFunction, Request, Response } from 'express';
import { brokenDocument, databaseDown, diskFull, ProblemError, tooLarge } from './problem.js';

const log = new Logger('problem');

/** Turns whatever is thrown into `application/problem+json`. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  catch(error: unknown, host: ArgumentsHost): void {
    const http = host.switchToHttp();
    sendProblem(error, http.getRequest<Request>(), http.getResponse<Response>());
  }
}
/** The same for what the middleware refuses before Nest's own handlers, such as a foreign host or a body that is no JSON. */
export function earlyProblems(
  error: unknown,
  request: Request,
  response: Response,
  _next: NextFunction,
): void {
  sendProblem(error, request, response);
}

/** Every problem is logged, and carries the id of its request. */
function sendProblem(error: unknown, request: Request, response: Response): void {
  const problem = problemOf(error);
  const { id, method, path } = request as Request & { id?: string };
  const line = `${problem.status} ${problem.type} ${method} ${path.slice(0, 200)} (request ${id}): ${problem.detail}`;
  if (problem.status < 500) log.warn(line);
  else log.error(problem.type === 'internal' && error instanceof Error ? `${line}\n${error.stack}` : line);
  if (response.headersSent) {
    response.destroy();
    return;
  }
  if (problem.status === 503 || problem.status === 429) {
    const { retryAfter = 2 } = problem.more as { retryAfter?: number };
    response.setHeader('Retry-After', String(retryAfter));
  }
  response
    .status(problem.status)
    .type('application/problem+json')
    .send(JSON.stringify({ ...problem.body(), request: id }));
}

/** The problem that an error stands for. What nobody foresaw is reported with as few words as can be. */
export function problemOf(error: unknown): ProblemError {
  const known = knownProblem(error) ?? httpProblem(error);
  if (known) return known;
  const detail = 'the server could not do this; it has logged why';
  return new ProblemError(500, 'internal', 'Something went wrong', detail);
}

/** The problem that an error stands for; null for one that nobody foresaw. */
function knownProblem(error: unknown): ProblemError | null {
  if (error instanceof ProblemError) return error;
  if (error instanceof BrokenDocument) return brokenDocument(error.problems, 'document');
  if (error instanceof ProjectTooLarge) {
    return new ProblemError(422, 'project-too-large', 'The project is too large', error.message, {
      chain: error.chain,
    });
  }
  if (error instanceof EditRefused) {
    const status = error.reason === 'broken-item' ? 422 : 409;
    return new ProblemError(status, `edit-${error.reason}`, 'The edit cannot be applied', error.message, {
      change: error.change,
      problems: error.problems,
    });
  }
  if (error instanceof HttpException) return fromHttp(error);
  if (isParserError(error)) {
    if (error.type === 'entity.too.large') return tooLarge(error.limit ?? 0);
    return new ProblemError(400, 'bad-json', 'The body is not JSON', error.message);
  }
  if (isTooSlow(error)) return tooSlow();
  if (error instanceof Error && 'code' in error && error.code === DISK_FULL) return diskFull();
  return isDatabaseDown(error) ? databaseDown() : null;
}

/** Errors of middleware that carry a status. */
function httpProblem(error: unknown): ProblemError | null {
  if (!(error instanceof Error) || !('status' in error) || typeof error.status !== 'number') return null;
  const type = error.status === 404 ? 'not-found' : 'bad-request';
  return new ProblemError(error.status, type, error.name, error.message);
}

function fromHttp(error: HttpException): ProblemError {
  const status = error.getStatus();
  if (status === 429) {
    const detail = 'this address has sent too many requests; wait a few seconds and try again';
    return new ProblemError(status, 'too-many-requests', 'Too many requests', detail);
  }
  const response = error.getResponse();
  const message = typeof response === 'object' && 'message' in response ? response.message : error.message;
  const detail = Array.isArray(message) ? message.join('; ') : String(message);
  const type = status === 404 ? 'not-found' : 'bad-request';
  return new ProblemError(status, type, error.name.replace(/Exception$/, ''), detail);
}

/** Errors of the body parser carry a type of their own. */
function isParserError(error: unknown): error is { type: string; message: string; limit?: number } {
  return (
    error instanceof Error &&
    'type' in error &&
    typeof error.type === 'string' &&
    /^(entity|encoding|request|charset|stream)\./.test(error.type)
  );
}

/** Codes of the network, and classes of PostgreSQL's: connection, resources, no connections allowed, shutting down. */
/** A statement or a lock that took longer than it may. */
function isTooSlow(error: unknown): boolean {
  return error instanceof Error && 'code' in error && (error.code === '57014' || error.code === '55P03');
}
function tooSlow(): ProblemError {
  const detail =
    'the database took too long, or another edit of this project is still running; nothing was stored';
  return new ProblemError(503, 'too-slow', 'It took too long', detail);
}
/** PostgreSQL's code. */
const DISK_FULL = '53100';
const DOWN = /^(ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|08...|53...|55000|57P..)$/;
function isDatabaseDown(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  if ('code' in error && typeof error.code === 'string' && DOWN.test(error.code)) return true;
  return /connection terminated|timeout exceeded when trying to connect|Query read timeout|Client has encountered a connection error/i.test(
    error.message,
  );
}
