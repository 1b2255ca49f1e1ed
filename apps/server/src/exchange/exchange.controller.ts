import { Controller, Inject, Post, Put, Query, Req, type StreamableFile } from '@nestjs/common';
import { ApiBody, ApiCreatedResponse, ApiOkResponse, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Request } from 'express';
import { EditsDto } from '../edits/edit.dto.js';
import { ProjectQueue } from '../edits/project.queue.js';
import { HeavyService } from '../heavy/heavy.service.js';
import { badRequest } from '../http/problem.js';
import { ProjectId } from '../http/project-id.js';
import { DeclarationsDto } from './declarations.dto.js';
import { ReplaceDto } from './replace.dto.js';
import { By, signed, type Actor } from '../team/actor.js';
import { Needs } from '../team/roles.js';

@ApiTags('exchange')
@Controller('api/projects/:id')
export class ExchangeController {
  constructor(
    @Inject(HeavyService) private readonly heavy: HeavyService,
    @Inject(ProjectQueue) private readonly queue: ProjectQueue,
  ) {}

  @Needs('designer')
  @Post('replace')
  @ApiOperation({ summary: 'Make the project like a document; an edit that can be undone' })
  @ApiBody({ description: 'The document, oquel.project/1', schema: { type: 'object' } })
  @ApiCreatedResponse({ type: EditsDto })
  replace(
    @ProjectId() id: string,
    @Query() dto: ReplaceDto,
    @Req() request: Request,
    @By() by: Actor | null,
  ): Promise<StreamableFile> {
    const { body } = request as { body: unknown };
    if (!Buffer.isBuffer(body)) throw badRequest('the body must be a project document');
    return this.queue.run(id, () => this.heavy.replace(id, signed(dto, by), body));
  }

  @Needs('designer', { scope: 'declarations' })
  @Put('declarations')
  @ApiOperation({
    summary: 'Update declarations and placements from a manifest of the game, as one edit that can be undone',
  })
  @ApiBody({ description: 'The manifest, oquel.declarations/1', schema: { type: 'object' } })
  @ApiOkResponse({ type: EditsDto })
  declare(
    @ProjectId() id: string,
    @Query() dto: DeclarationsDto,
    @Req() request: Request,
    @By() by: Actor | null,
  ): Promise<StreamableFile> {
    const { body } = request as { body: unknown };
    if (!Buffer.isBuffer(body)) throw badRequest('the body must be a manifest');
    return this.queue.run(id, () => this.heavy.declare(id, signed(dto, by), body));
  }
}
