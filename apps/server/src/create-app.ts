import { ValidationPipe } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import type { NextFunction, Request, Response } from 'express';
import { SwaggerModule, type OpenAPIObject } from '@nestjs/swagger';
import compression from 'compression';
import helmet from 'helmet';
import { Logger } from 'nestjs-pino';
import { AppModule } from './app.module.js';
import type { Config } from './config.js';
import { bodyParsers } from './http/bodies.js';
import { hostAndOrigin } from './http/guards.js';
import { earlyProblems } from './http/problem.filter.js';
import { requestIds } from './http/request-id.js';
import { LIMITS } from './limits.js';
import { invalid, VALIDATION } from './http/validated.js';
import { describeApi } from './openapi/describe-api.js';
import { Closing } from './http/closing.js';
import { Metrics } from './metrics.js';
import { LargeSenders } from './team/large-senders.js';
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
  app.set('trust proxy', config.proxies);
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
  app.use(requestIds);
  app.use(app.get(Metrics).measure, app.get(Closing).count);
  app.use(compression({ filter: compressible }));
  app.use(hostAndOrigin(config));
  app.use('/api', noStore);
  app.use(app.get(LargeSenders).check, ...bodyParsers());
  if (config.web !== null) serveWeb(app, config.web);
  app.use(earlyProblems);
  app.useGlobalPipes(new ValidationPipe({ ...VALIDATION, transform: true, exceptionFactory: invalid }));
  // Made when somebody first reads it.
  let made: OpenAPIObject | undefined;
  const api = (): OpenAPIObject => (made ??= describeApi(app));
  app.getHttpAdapter().get('/api/openapi.json', (_request, response) => {
    (response as Response).json(api());
  });
  // Reads the description from this server; nothing comes from elsewhere.
  SwaggerModule.setup('api/viewer', app, api, {
    customSiteTitle: 'Oquel, the API',
    customCss: '.topbar { display: none }',
  });
  app.getHttpServer().keepAliveTimeout = LIMITS.keepAlive;
  return app;
}

/** A stream of events must arrive as it is sent. */
function compressible(request: Request, response: Response): boolean {
  return (
    !/event-stream/.test(String(response.getHeader('Content-Type'))) && compression.filter(request, response)
  );
}
/** What the API answers is true now and kept nowhere. */
function noStore(_request: Request, response: Response, next: NextFunction): void {
  response.setHeader('Cache-Control', 'no-store');
  next();
}
