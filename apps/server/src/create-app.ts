import { ValidationPipe } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import type { NextFunction, Request, Response } from 'express';
import helmet from 'helmet';
import { Logger } from 'nestjs-pino';
import { AppModule } from './app.module.js';
import type { Config } from './config.js';
import { bodyParsers } from './http/bodies.js';
import { hostAndOrigin } from './http/guards.js';
import { badRequest, ProblemError } from './http/problem.js';
import { knownProblem } from './http/problem.filter.js';
import { describeApi } from './openapi.js';
import { serveWeb } from './web/static.js';

/** The application, ready to listen; nothing is asked of the database yet. */
export async function createApp(config: Config): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(config), {
    bodyParser: false,
    bufferLogs: true,
    // Streams of events never end by themselves.
    forceCloseConnections: true,
  });
  app.useLogger(app.get(Logger));
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          // The component library writes its styles into the page.
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          workerSrc: ["'self'", 'blob:'],
          connectSrc: ["'self'"],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(hostAndOrigin(config));
  app.use(...bodyParsers());
  if (config.web !== null) serveWeb(app, config.web);
  app.use(earlyProblems);
  app.useGlobalPipes(
    new ValidationPipe({
      whitelist: true,
      forbidNonWhitelisted: true,
      transform: true,
      exceptionFactory: (errors) => {
        const reasons = errors.flatMap((e) => Object.values(e.constraints ?? {}));
        return badRequest(reasons.join('; '), { fields: errors.map((e) => e.property) });
      },
    }),
  );
  const api = describeApi(app);
  app.getHttpAdapter().get('/api/openapi.json', (_request, response) => {
    (response as Response).json(api);
  });
  app.enableShutdownHooks();
  return app;
}

/** Errors of the middleware before Nest's own handlers, such as a body that is no JSON. */
function earlyProblems(error: unknown, _request: Request, response: Response, next: NextFunction): void {
  const problem = knownProblem(error) ?? httpProblem(error);
  if (!problem || response.headersSent) return next(error);
  response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem.body()));
}
function httpProblem(error: unknown): ProblemError | null {
  if (!(error instanceof Error) || !('status' in error) || typeof error.status !== 'number') return null;
  return new ProblemError(
    error.status,
    error.status === 404 ? 'not-found' : 'bad-request',
    error.name,
    error.message,
  );
}
