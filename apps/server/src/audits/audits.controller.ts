import { Controller, Get, Inject, Query, Res } from '@nestjs/common';
import { ApiOkResponse, ApiOperation, ApiQuery, ApiTags } from '@nestjs/swagger';
import type { Response } from 'express';
import { badRequest } from '../http/problem.js';
import { ProjectId } from '../projects/projects.controller.js';
import { AuditsService } from './audits.service.js';

@ApiTags('audits')
@Controller('api/projects/:id/audit')
export class AuditsController {
  constructor(@Inject(AuditsService) private readonly audits: AuditsService) {}

  @Get()
  @ApiOperation({ summary: 'Audit the project as it is stored now' })
  @ApiQuery({ name: 'today', required: false, description: 'ISO date on which waivers are judged' })
  @ApiOkResponse({ description: 'oquel.audit/1', schema: { type: 'object' } })
  async audit(
    @ProjectId() id: string,
    @Res() response: Response,
    @Query('today') today?: string,
  ): Promise<void> {
    if (today !== undefined && Number.isNaN(Date.parse(`${today}T00:00:00Z`))) {
      throw badRequest(`today must be a date such as 2026-11-24, not "${today}"`);
    }
    const { text, version } = await this.audits.audit(id, today);
    response.setHeader('Oquel-Version', String(version));
    response.type('application/json').send(text);
  }
}
