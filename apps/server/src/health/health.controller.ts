import { Controller, Get, Inject } from '@nestjs/common';
import { ApiOkResponse, ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import { Database } from '../database/database.js';
import { databaseDown } from '../http/problem.js';
import { Needs } from '../team/roles.js';

class HealthDto {
  @ApiProperty({ enum: ['ok'] }) status: 'ok';
}

@ApiTags('health')
@Controller('api/health')
export class HealthController {
  constructor(@Inject(Database) private readonly db: Database) {}

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
}
