import { Controller, Get, Inject, Query, Res, type StreamableFile } from '@nestjs/common';
import { ApiOkResponse, ApiOperation, ApiQuery, ApiTags } from '@nestjs/swagger';
import { isIsoDate } from '@oquel/core';
import type { Response } from 'express';
import { asJson, HeavyService } from '../heavy/heavy.service.js';
import { badRequest } from '../http/problem.js';
import { ProjectId } from '../projects/project-id.js';

@ApiTags('audits')
@Controller('api/projects/:id/audit')
export class AuditsController {
  constructor(@Inject(HeavyService) private readonly heavy: HeavyService) {}

  @Get()
  @ApiOperation({ summary: 'Audit the project as it is stored now' })
  @ApiQuery({ name: 'today', required: false, description: 'ISO date on which waivers are judged' })
  @ApiOkResponse({ description: 'oquel.audit/1', schema: { type: 'object' } })
  async audit(
    @ProjectId() id: string,
    @Res({ passthrough: true }) response: Response,
    @Query('today') today: unknown = new Date().toISOString().slice(0, 10),
  ): Promise<StreamableFile> {
    if (!isIsoDate(today))
      throw badRequest(`today must be a date such as 2026-11-24, not "${String(today)}"`);
    const done = await this.heavy.audit(id, today, whenLeft(response));
    response.setHeader('Oquel-Version', String(done.version));
    return asJson(done);
  }
}

/** Told when the client does not wait for the answer any more. */
function whenLeft(response: Response): AbortSignal {
  const left = new AbortController();
  if (response.closed) left.abort();
  response.once('close', () => {
    if (!response.writableFinished) left.abort();
  });
  return left.signal;
}
