import { jsonDepthFault } from '@oquel/core';
import express, { type Request, type RequestHandler, type Response } from 'express';
import { LIMITS } from '../limits.js';
import { documentBody } from './document-body.js';
import { badRequest, busy, ProblemError } from './problem.js';

/** Where a whole document is sent: as a project, over a project, as a manifest of the game, as a build. */
const DOCUMENT = /^\/api\/projects(\/[^/]+\/(replace|declarations|builds\/import))?\/?$/;
/** Where a picture is sent. */
const PICTURE = /^\/api\/projects\/[^/]+\/pictures\/?$/;
/** Where plays are sent: they are read while they come in. */
const PLAYS = /^\/api\/projects\/[^/]+\/plays\/?$/;
/** Where changes are sent, which may be many. */
const EDITS = /^\/api\/projects\/[^/]+\/edits\/?$/;

/**
 * Bodies are read as bytes, within a bound on what they unpack to. Documents and edits stay so: a worker reads those
 * that are large, and the core says where they are broken. Everything else is parsed here.
 */
export function bodyParsers(): RequestHandler[] {
  const type = (): boolean => true;
  const document = documentBody(LIMITS.body.document);
  const json = express.raw({ type, limit: LIMITS.body.json });
  const picture = express.raw({ type, limit: LIMITS.body.picture });
  const turns = new Turns();
  return [
    (request, response, next) => {
      if (isStreamed(request)) next();
      else void turns.take(request, response).then(() => next(), next);
    },
    (request, response, next) => {
      if (isStreamed(request)) return next();
      const isDocument = /^(POST|PUT)$/.test(request.method) && DOCUMENT.test(request.path);
      const isPicture = request.method === 'POST' && PICTURE.test(request.path);
      const stays = isDocument || isPicture || EDITS.test(request.path);
      (isDocument ? document : isPicture ? picture : json)(request, response, (error?: unknown) => {
        if (error || stays) return next(error);
        try {
          if (Buffer.isBuffer(request.body)) request.body = jsonBody(request.body);
          next();
        } catch (fault) {
          next(fault);
        }
      });
    },
  ];
}

function isStreamed({ method, path }: Request): boolean {
  return method === 'POST' && PLAYS.test(path);
}
export function isLarge(body: unknown): body is Buffer {
  return Buffer.isBuffer(body) && body.length > LIMITS.body.large;
}

/** The text of a body. @throws ProblemError 400 where it is not UTF-8 */
export function textBody(body: unknown): string {
  if (!(body instanceof Uint8Array)) throw badRequest('the body must be a project document');
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(body);
  } catch {
    throw new ProblemError(400, 'bad-text', 'The body is not UTF-8', 'the body must be text in UTF-8');
  }
}
/** The value of a body. @throws ProblemError 400 where it is not JSON, or nested too deep */
export function jsonBody(body: unknown): unknown {
  const text = textBody(body);
  if (text === '') return {};
  const fault = jsonDepthFault(text);
  if (fault !== null) throw new ProblemError(400, 'bad-json', 'The body is nested too deep', fault);
  try {
    return JSON.parse(text) as unknown;
  } catch (error) {
    const detail = error instanceof Error ? error.message : String(error);
    throw new ProblemError(400, 'bad-json', 'The body is not JSON', detail);
  }
}

/** Large bodies are read some at a time; the others wait, a bounded number of them for a bounded time. */
class Turns {
  private reading = 0;
  private readonly waiting: (() => void)[] = [];

  async take(request: Request, response: Response): Promise<void> {
    if (!mayBeLarge(request)) return;
    if (this.reading >= LIMITS.body.largeAtOnce) await this.wait();
    // Whoever has gone meanwhile passes the turn on.
    if (response.closed || response.destroyed) {
      this.waiting.shift()?.();
      throw busy('the client has gone');
    }
    this.reading++;
    response.once('close', () => {
      this.reading--;
      this.waiting.shift()?.();
    });
  }
  private wait(): Promise<void> {
    if (this.waiting.length >= LIMITS.body.largeWaiting) throw busy('too many large requests are being read');
    return new Promise((resolve, reject) => {
      const go = (): void => {
        clearTimeout(timer);
        resolve();
      };
      const timer = setTimeout(() => {
        this.waiting.splice(this.waiting.indexOf(go), 1);
        reject(busy('other large requests are being read'));
      }, LIMITS.body.largeWait);
      this.waiting.push(go);
    });
  }
}
/** Whether a body may be more than a few fields, as far as its head says. */
export function mayBeLarge({ headers }: Request): boolean {
  if ((headers['content-encoding'] ?? 'identity') !== 'identity') return true;
  if (headers['transfer-encoding'] !== undefined) return true;
  return Number(headers['content-length'] ?? 0) > LIMITS.body.large;
}
