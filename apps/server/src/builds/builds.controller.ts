import {
  Body,
  Controller,
  Get,
  Inject,
  Param,
  ParseUUIDPipe,
  Post,
  Query,
  Req,
  Res,
  type StreamableFile,
} from '@nestjs/common';
import { ApiBody, ApiCreatedResponse, ApiOkResponse, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { EditsDto, StepDto } from '../edits/edit.dto.js';
import { fileName } from '../http/file-name.js';
import { badRequest } from '../http/problem.js';
import { ProjectQueue } from '../edits/project.queue.js';
import { HeavyService } from '../heavy/heavy.service.js';
import { ProjectId } from '../http/project-id.js';
import { BuildDto, BuildImportDto, FreezeDto, SayDto } from './build.dto.js';
import { noSuchBuild } from './build.store.js';
import { BuildsService } from './builds.service.js';
import { By, signed, type Actor } from '../team/actor.js';
import { Needs } from '../team/roles.js';

const BuildId = (): ParameterDecorator =>
  Param('build', new ParseUUIDPipe({ exceptionFactory: () => noSuchBuild() }));

@ApiTags('builds')
@Controller('api/projects/:id/builds')
export class BuildsController {
  constructor(
    @Inject(BuildsService) private readonly builds: BuildsService,
    @Inject(HeavyService) private readonly heavy: HeavyService,
    @Inject(ProjectQueue) private readonly queue: ProjectQueue,
  ) {}

  @Needs('reader')
  @Get()
  @ApiOperation({ summary: 'All builds of a project, the oldest first' })
  @ApiOkResponse({ type: [BuildDto] })
  list(@ProjectId() id: string): Promise<BuildDto[]> {
    return this.builds.list(id);
  }

  @Needs('lead')
  @Post()
  @ApiOperation({ summary: 'Freeze the project as it is stored, with its audit and gate' })
  @ApiCreatedResponse({ type: BuildDto })
  freeze(@ProjectId() id: string, @Body() dto: FreezeDto, @By() by: Actor | null): Promise<StreamableFile> {
    return this.heavy.freeze(id, signed(dto, by));
  }

  @Needs('lead')
  @Post('import')
  @ApiOperation({ summary: 'Put a document in as a build' })
  @ApiBody({ description: 'The document, oquel.project/1', schema: { type: 'object' } })
  @ApiCreatedResponse({ type: BuildDto })
  import(
    @ProjectId() id: string,
    @Query() dto: BuildImportDto,
    @Req() request: Request,
    @By() by: Actor | null,
  ): Promise<StreamableFile> {
    const { body } = request as { body: unknown };
    if (!Buffer.isBuffer(body)) throw badRequest('the body must be a project document');
    return this.heavy.importBuild(id, signed(dto, by), body);
  }

  @Needs('reader', { scope: 'audit' })
  @Get(':build/document')
  @ApiOperation({ summary: 'The document of a build' })
  @ApiOkResponse({ schema: { type: 'object' } })
  document(@ProjectId() id: string, @BuildId() build: string, @Res() response: Response): Promise<void> {
    return this.send(id, build, 'document', response);
  }

  @Needs('reader', { scope: 'audit' })
  @Get(':build/audit')
  @ApiOperation({ summary: 'The audit of a build at the time when it was frozen' })
  @ApiOkResponse({ description: 'oquel.audit/1', schema: { type: 'object' } })
  audit(@ProjectId() id: string, @BuildId() build: string, @Res() response: Response): Promise<void> {
    return this.send(id, build, 'audit', response);
  }

  @Needs('lead')
  @Post(':build/verdicts')
  @ApiOperation({ summary: 'Let a build through, or hold it back' })
  @ApiCreatedResponse({ type: BuildDto })
  say(
    @ProjectId() id: string,
    @BuildId() build: string,
    @Body() dto: SayDto,
    @By() by: Actor | null,
  ): Promise<BuildDto> {
    return this.builds.say(id, build, signed(dto, by));
  }

  @Needs('designer')
  @Post(':build/restore')
  @ApiOperation({ summary: 'Restore the project to a build, as one edit that can be undone' })
  @ApiCreatedResponse({ type: EditsDto })
  restore(
    @ProjectId() id: string,
    @BuildId() build: string,
    @Body() dto: StepDto,
    @By() by: Actor | null,
  ): Promise<StreamableFile> {
    return this.queue.run(id, () => this.heavy.restore(id, build, signed(dto, by)));
  }

  private async send(
    id: string,
    build: string,
    part: 'document' | 'audit',
    response: Response,
  ): Promise<void> {
    const { name, text } = await this.builds.text(id, build, part);
    response.attachment(`${fileName(name)}.${part === 'document' ? 'oquel' : 'audit'}.json`);
    response.type('application/json').send(text);
  }
}
