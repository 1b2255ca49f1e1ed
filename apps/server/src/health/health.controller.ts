import { Controller, Get, Inject } from '@nestjs/common';
import { ApiOkResponse, ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import { Database } from '../database/database.js';
import { Closing } from '../http/closing.js';
import { databaseDown, stopping } from '../http/problem.js';
import { Needs } from '../team/roles.js';

class HealthDto {
  @ApiProperty({ enum: ['ok'] }) status: 'ok';
}

@ApiTags('health')
@Controller('api/health')
export class HealthController {
  constructor(
    @Inject(Database) private readonly db: Database,
    @Inject(Closing) private readonly closing: Closing,
  ) {}

  @Needs('anybody')
  @Get()
  @ApiOperation({ summary: 'Whether the server and its database answer' })
  @ApiOkResponse({ type: HealthDto })
  async health(): Promise<HealthDto> {
    await this.db.ping().catch(() => {
      throw databaseDown();
    });
    return { status: 'ok' };
  }

  @Needs('anybody')
  @Get('live')
  @ApiOperation({ summary: 'Whether the server itself answers; one that does not is started again' })
  @ApiOkResponse({ type: HealthDto })
  live(): HealthDto {
    return { status: 'ok' };
  }

  @Needs('anybody')
  @Get('ready')
  @ApiOperation({
    summary: 'Whether requests may be sent here: its database answers, and it is not being stopped',
  })
  @ApiOkResponse({ type: HealthDto })
  async ready(): Promise<HealthDto> {
    if (this.closing.hasBegun) throw stopping();
    return this.health();
  }
}
