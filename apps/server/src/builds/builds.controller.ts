import { Body, Controller, Get, Inject, Param, ParseUUIDPipe, Post, Query, Req, Res } from '@nestjs/common';
import { ApiBody, ApiCreatedResponse, ApiOkResponse, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { EditedDto, StepDto } from '../edits/edit.dto.js';
import { fileName } from '../http/file-name.js';
import { badRequest } from '../http/problem.js';
import { ProjectId } from '../projects/projects.controller.js';
import { BuildDto, BuildImportDto, FreezeDto, SayDto } from './build.dto.js';
import { noSuchBuild } from './build.store.js';
import { BuildsService } from './builds.service.js';

const BuildId = (): ParameterDecorator =>
  Param('build', new ParseUUIDPipe({ exceptionFactory: () => noSuchBuild() }));

@ApiTags('builds')
@Controller('api/projects/:id/builds')
export class BuildsController {
  constructor(@Inject(BuildsService) private readonly builds: BuildsService) {}

  @Get()
  @ApiOperation({ summary: 'All builds of a project, the oldest first' })
  @ApiOkResponse({ type: [BuildDto] })
  list(@ProjectId() id: string): Promise<BuildDto[]> {
    return this.builds.list(id);
  }

  @Post()
  @ApiOperation({ summary: 'Freeze the project as it is stored, with its audit and gate' })
  @ApiCreatedResponse({ type: BuildDto })
  freeze(@ProjectId() id: string, @Body() dto: FreezeDto): Promise<BuildDto> {
    return this.builds.freeze(id, dto);
  }

  @Post('import')
  @ApiOperation({ summary: 'Put a document in as a build' })
  @ApiBody({ description: 'The document, oquel.project/1', schema: { type: 'object' } })
  @ApiCreatedResponse({ type: BuildDto })
  import(@ProjectId() id: string, @Query() dto: BuildImportDto, @Req() request: Request): Promise<BuildDto> {
    if (typeof request.body !== 'string') throw badRequest('the body must be a project document');
    return this.builds.import(id, request.body, dto);
  }

  @Get(':build/document')
  @ApiOperation({ summary: 'The document of a build' })
  @ApiOkResponse({ schema: { type: 'object' } })
  document(@ProjectId() id: string, @BuildId() build: string, @Res() response: Response): Promise<void> {
    return this.send(id, build, 'document', response);
  }

  @Get(':build/audit')
  @ApiOperation({ summary: 'The audit of a build, as it was when it was frozen' })
  @ApiOkResponse({ description: 'oquel.audit/1', schema: { type: 'object' } })
  audit(@ProjectId() id: string, @BuildId() build: string, @Res() response: Response): Promise<void> {
    return this.send(id, build, 'audit', response);
  }

  @Post(':build/verdicts')
  @ApiOperation({ summary: 'Let a build through, or hold it back' })
  @ApiCreatedResponse({ type: BuildDto })
  say(@ProjectId() id: string, @BuildId() build: string, @Body() dto: SayDto): Promise<BuildDto> {
    return this.builds.say(id, build, dto);
  }

  @Post(':build/restore')
  @ApiOperation({ summary: 'Make the project as it was in a build; an edit that can be undone' })
  @ApiCreatedResponse({ type: EditedDto })
  restore(@ProjectId() id: string, @BuildId() build: string, @Body() dto: StepDto): Promise<EditedDto> {
    return this.builds.restore(id, build, dto);
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
