import { Body, Controller, Get, HttpCode, Inject, Logger, Post, Query, Req } from '@nestjs/common';
import { ApiOkResponse, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Request } from 'express';
import { By, type Actor } from '../team/actor.js';
import { Needs } from '../team/roles.js';
import { addressOf, SecurityLog } from '../team/security.log.js';
import { AgesDto, ProjectAmountsDto } from './retention.dto.js';
import { Retention } from './retention.service.js';

const log = new Logger('retention');

@ApiTags('retention')
@Controller('api/retention')
export class RetentionController {
  constructor(
    @Inject(Retention) private readonly retention: Retention,
    @Inject(SecurityLog) private readonly security: SecurityLog,
  ) {}

  @Needs('administrator')
  @Get()
  @ApiOperation({ summary: 'What each project has of history and builds, and what of it is older' })
  @ApiOkResponse({ type: [ProjectAmountsDto] })
  amounts(@Query() ages: AgesDto): Promise<ProjectAmountsDto[]> {
    return this.retention.amounts(ages);
  }

  @Needs('administrator')
  @Post()
  @HttpCode(200)
  @ApiOperation({ summary: 'Remove history and builds that are older, for good' })
  @ApiOkResponse({
    type: [ProjectAmountsDto],
    description: 'What has gone, of each project that had something.',
  })
  async thin(
    @Body() ages: AgesDto,
    @By() by: Actor | null,
    @Req() request: Request,
  ): Promise<ProjectAmountsDto[]> {
    const gone = await this.retention.thin(ages);
    for (const { id, name, history, builds } of gone) {
      const detail = `"${name}": ${history.going} edits and ${builds.going} builds removed`;
      log.log(detail);
      if (!by) continue;
      await this.security.write({
        what: 'thinned',
        who: by.name,
        from: addressOf(request),
        project: id,
        detail,
      });
    }
    return gone;
  }
}
