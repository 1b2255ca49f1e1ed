import { Injectable } from '@nestjs/common';
import type { NextFunction, Request, Response } from 'express';
import { Subject } from 'rxjs';
import { stopping } from './problem.js';

/**
 * How the server stops: nothing new is taken on, streams end, so that windows look for another server, and what is running may come
 * to its end.
 */
@Injectable()
export class Closing {
  /** Tells streams that they end now. */
  readonly begun = new Subject<void>();
  private isClosing = false;
  private running = 0;
  private idle: (() => void) | null = null;

  get hasBegun(): boolean {
    return this.isClosing;
  }
  /** Counts requests; while the server stops, new ones are asked to come again. */
  count = (request: Request, response: Response, next: NextFunction): void => {
    // That it lives is true until the end.
    if (this.isClosing && request.path !== '/api/health/live') {
      response.setHeader('Connection', 'close');
      return next(stopping());
    }
    this.running++;
    response.once('close', () => {
      this.running--;
      if (this.running === 0) this.idle?.();
    });
    next();
  };
  /** Begins to stop; resolves once nothing runs any more, or after a time. Milliseconds. */
  async begin(most: number): Promise<void> {
    this.isClosing = true;
    this.begun.next();
    if (this.running === 0) return;
    await new Promise<void>((resolve) => {
      this.idle = resolve;
      setTimeout(resolve, most);
    });
  }
}
