import { Logger, Module, type DynamicModule } from '@nestjs/common';
import { APP_FILTER, APP_GUARD } from '@nestjs/core';
import { ThrottlerGuard, ThrottlerModule } from '@nestjs/throttler';
import type { IncomingMessage } from 'node:http';
import { LoggerModule } from 'nestjs-pino';
import { AuditsController } from './audits/audits.controller.js';
import { BuildStore } from './builds/build.store.js';
import { BuildsController } from './builds/builds.controller.js';
import { BuildsService } from './builds/builds.service.js';
import { CONFIG, type Config } from './config.js';
import { Database } from './database/database.js';
import { EditLog } from './projects/edit.log.js';
import { EditsController } from './edits/edits.controller.js';
import { EditsService } from './edits/edits.service.js';
import { ProjectQueue } from './edits/project.queue.js';
import { ExchangeController } from './exchange/exchange.controller.js';
import { HeavyService } from './heavy/heavy.service.js';
import { HealthController } from './health/health.controller.js';
import { LIMITS } from './limits.js';
import { LOGGED } from './http/logged.js';
import { ProblemFilter } from './http/problem.filter.js';
import { CollaborationController } from './collaboration/collaboration.controller.js';
import { CollaborationService } from './collaboration/collaboration.service.js';
import { Notices } from './database/notices.js';
import { Presence } from './collaboration/presence.js';
import { PicturesController } from './pictures/pictures.controller.js';
import { PicturesService } from './pictures/pictures.service.js';
import { PlaysController } from './plays/plays.controller.js';
import { PlaysService } from './plays/plays.service.js';
import { ProjectImport } from './projects/project.import.js';
import { ProjectList } from './projects/project-list.js';
import { ProjectStates } from './projects/project-states.js';
import { ProjectStore } from './projects/project.store.js';
import { ProjectsController } from './projects/projects.controller.js';
import { ProjectsService } from './projects/projects.service.js';
import { Retention } from './retention/retention.service.js';
import { RetentionController } from './retention/retention.controller.js';
import { Closing } from './http/closing.js';
import { Metrics } from './metrics.js';
import { AccessGuard } from './team/access.guard.js';
import { LargeSenders } from './team/large-senders.js';
import { Members } from './team/members.js';
import { MembersController } from './team/members.controller.js';
import { Passwords } from './team/passwords.js';
import { People } from './team/people.js';
import { PeopleController } from './team/people.controller.js';
import { SecurityLog } from './team/security.log.js';
import { SessionController } from './team/session.controller.js';
import { Sessions } from './team/sessions.js';
import { SingleSignOn } from './team/single.sign.on.js';
import { SingleSignOnController } from './team/single.sign.on.controller.js';
import { Tokens } from './team/tokens.js';
import { Tries } from './team/tries.js';

@Module({})
export class AppModule {
  static with(config: Config): DynamicModule {
    const log = new Logger('database');
    return {
      module: AppModule,
      imports: [
        LoggerModule.forRoot({
          pinoHttp: {
            level: config.logLevel,
            autoLogging: true,
            genReqId: (request: IncomingMessage & { id?: string }) => request.id ?? '',
            serializers: LOGGED,
          },
        }),
        ThrottlerModule.forRoot({
          throttlers: [{ ttl: LIMITS.rate.window, limit: LIMITS.rate.requests }],
          // One count for an address, whatever it asks for.
          generateKey: (_context, tracker) => tracker,
        }),
      ],
      controllers: [
        ProjectsController,
        EditsController,
        AuditsController,
        BuildsController,
        ExchangeController,
        CollaborationController,
        PicturesController,
        PlaysController,
        HealthController,
        SessionController,
        PeopleController,
        MembersController,
        SingleSignOnController,
        RetentionController,
      ],
      providers: [
        { provide: CONFIG, useValue: config },
        { provide: Database, useFactory: () => new Database(config.databaseUrl, (e) => log.warn(e.message)) },
        { provide: APP_FILTER, useClass: ProblemFilter },
        { provide: APP_GUARD, useClass: ThrottlerGuard },
        { provide: APP_GUARD, useClass: AccessGuard },
        ProjectList,
        ProjectStates,
        ProjectStore,
        ProjectImport,
        ProjectsService,
        EditLog,
        EditsService,
        HeavyService,
        ProjectQueue,
        BuildStore,
        BuildsService,
        Notices,
        PicturesService,
        PlaysService,
        Presence,
        CollaborationService,
        Closing,
        Metrics,
        Passwords,
        LargeSenders,
        Sessions,
        SingleSignOn,
        Tries,
        People,
        Members,
        Tokens,
        SecurityLog,
        Retention,
      ],
    };
  }
}
