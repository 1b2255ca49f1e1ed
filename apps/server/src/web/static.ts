import { join } from 'node:path';
import type { NestExpressApplication } from '@nestjs/platform-express';
import express, { type NextFunction, type Request, type Response } from 'express';

/** Serves the built web application; every address of it that is not a file gets its page. */
export function serveWeb(app: NestExpressApplication, folder: string): void {
  app.use(
    '/assets',
    express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
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
