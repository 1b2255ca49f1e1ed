import { Controller, Get, Inject, Query, Res, type StreamableFile } from '@nestjs/common';
import { ApiOkResponse, ApiOperation, ApiQuery, ApiTags } from '@nestjs/swagger';
import { isIsoDate } from '@oquel/core';
import type { Response } from 'express';
import { asJson, HeavyService } from '../heavy/heavy.service.js';
import { badRequest } from '../http/problem.js';
import { GateDto } from '../projects/project.dto.js';
import { ProjectId } from '../http/project-id.js';
import { Needs } from '../team/roles.js';

const TODAY = { name: 'today', required: false, description: 'ISO date on which waivers are judged' };

@ApiTags('audits')
@Controller('api/projects/:id')
export class AuditsController {
  constructor(@Inject(HeavyService) private readonly heavy: HeavyService) {}

  @Needs('reader', { scope: 'audit' })
  @Get('audit')
  @ApiOperation({ summary: 'Audit the project as it is stored now' })
  @ApiQuery(TODAY)
  @ApiOkResponse({ description: 'oquel.audit/1', schema: { type: 'object' } })
  async audit(
    @ProjectId() id: string,
    @Res({ passthrough: true }) response: Response,
    @Query('today') today: unknown,
  ): Promise<StreamableFile> {
    const done = await this.heavy.audit(id, dateOf(today), whenLeft(response));
    response.setHeader('Oquel-Version', String(done.version));
    return asJson(done);
  }

  @Needs('reader', { scope: 'audit' })
  @Get('gate')
  @ApiOperation({ summary: 'Whether the project passes its gate, with the counts of its findings' })
  @ApiQuery(TODAY)
  @ApiOkResponse({ type: GateDto })
  gate(
    @ProjectId() id: string,
    @Res({ passthrough: true }) response: Response,
    @Query('today') today: unknown,
  ): Promise<StreamableFile> {
    return this.heavy.gate(id, dateOf(today), whenLeft(response));
  }
}

/** A date as it was asked for; without one it is today. */
function dateOf(today: unknown = new Date().toISOString().slice(0, 10)): string {
  if (isIsoDate(today)) return today;
  throw badRequest(`today must be a date such as 2026-11-24, not "${String(today)}"`);
}
/** Reported when the client does not wait for the answer any more. */
function whenLeft(response: Response): AbortSignal {
  const left = new AbortController();
  if (response.closed) left.abort();
  response.once('close', () => {
    if (!response.writableFinished) left.abort();
  });
  return left.signal;
}
