import { join } from 'node:path';
import type { NestExpressApplication } from '@nestjs/platform-express';
import staticGzip from 'express-static-gzip';
import express, { type NextFunction, type Request, type Response } from 'express';
import { ProblemError } from '../http/problem.js';

/** Serves the built web application; every address of it that is not a file gets its page. */
export function serveWeb(app: NestExpressApplication, folder: string): void {
  app.use(
    '/assets',
    // The build has compressed them.
    staticGzip(join(folder, 'assets'), {
      enableBrotli: true,
      orderPreference: ['br', 'gz'],
      serveStatic: { immutable: true, maxAge: '1y' },
    }),
    (request: Request, _response: Response, next: NextFunction) => {
      next(new ProblemError(404, 'not-found', 'Not found', `there is no file ${request.originalUrl}`));
    },
  );
  // The guide has pages of its own; a name without a page is not the application's.
  app.use(
    '/guide',
    express.static(join(folder, 'guide'), { maxAge: 0 }),
    (request: Request, _response: Response, next: NextFunction) => {
      next(new ProblemError(404, 'not-found', 'Not found', `the guide has no page ${request.path}`));
    },
  );
  // The demo as a game has a page of its own.
  app.use('/play', express.static(join(folder, 'play'), { maxAge: 0 }));
  const files = express.static(folder, { index: false, maxAge: 0 });
  app.use((request: Request, response: Response, next: NextFunction) => {
    // No question to the API looks for a file first.
    if (!['GET', 'HEAD'].includes(request.method) || /^\/api(\/|$)/.test(request.path)) return next();
    files(request, response, () => {
      response.setHeader('Cache-Control', 'no-cache');
      response.sendFile(join(folder, 'index.html'));
    });
  });
}
