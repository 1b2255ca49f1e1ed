import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import { BrokenDocument, EditRefused, ProjectTooLarge } from '@oquel/core';
import type { Response } from 'express';
import { brokenDocument, databaseDown, ProblemError, tooLarge } from './problem.js';

/** Turns whatever is thrown into `application/problem+json`. What nobody foresaw is logged, and told as little as can be. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly log = new Logger('problem');

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    if (response.headersSent) return;
    const problem = this.toProblem(error);
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem.body()));
  }

  private toProblem(error: unknown): ProblemError {
    const known = knownProblem(error);
    if (known) return known;
    this.log.error(error instanceof Error ? error.stack : String(error));
    return new ProblemError(
      500,
      'internal',
      'Something went wrong',
      'the server could not do this; it has logged why',
    );
  }
}

/** The problem that an error stands for; null for one that nobody foresaw. */
export function knownProblem(error: unknown): ProblemError | null {
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
  return isDatabaseDown(error) ? databaseDown() : null;
}

function fromHttp(error: HttpException): ProblemError {
  const status = error.getStatus();
  const response = error.getResponse();
  const message = typeof response === 'object' && 'message' in response ? response.message : error.message;
  const detail = Array.isArray(message) ? message.join('; ') : String(message);
  const type = status === 404 ? 'not-found' : status === 429 ? 'too-many-requests' : 'bad-request';
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
const DOWN = /^(ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|08...|53...|55000|57P..)$/;
function isDatabaseDown(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  if ('code' in error && typeof error.code === 'string' && DOWN.test(error.code)) return true;
  return /connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error/i.test(
    error.message,
  );
}
