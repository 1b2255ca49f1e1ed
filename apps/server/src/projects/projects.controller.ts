import { Controller, Get, Inject, Post, Query, Req, Res, StreamableFile } from '@nestjs/common';
import { ApiBody, ApiCreatedResponse, ApiOkResponse, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { asJson, HeavyService } from '../heavy/heavy.service.js';
import { fileName } from '../http/file-name.js';
import { badRequest } from '../http/problem.js';
import { ProjectId } from './project-id.js';
import { AuthorDto, ImportDto, ImportedDto, OpenedDto, ProjectDto } from './project.dto.js';
import { ProjectsService } from './projects.service.js';

@ApiTags('projects')
@Controller('api/projects')
export class ProjectsController {
  constructor(
    @Inject(ProjectsService) private readonly projects: ProjectsService,
    @Inject(HeavyService) private readonly heavy: HeavyService,
  ) {}

  @Get()
  @ApiOperation({ summary: 'All projects, the last changed first' })
  @ApiOkResponse({ type: [ProjectDto] })
  list(): Promise<ProjectDto[]> {
    return this.projects.list();
  }

  @Post()
  @ApiOperation({ summary: 'Import a document as a new project' })
  @ApiBody({ description: 'The document, oquel.project/1', schema: { type: 'object' } })
  @ApiCreatedResponse({ type: ImportedDto })
  import(@Req() request: Request, @Query() { key }: ImportDto): Promise<StreamableFile> {
    const { body } = request as { body: unknown };
    if (!Buffer.isBuffer(body)) throw badRequest('the body must be a project document');
    return this.heavy.import(body, key ?? null);
  }

  @Get(':id')
  @ApiOperation({ summary: 'A project as it is now' })
  @ApiOkResponse({ type: OpenedDto })
  async open(@ProjectId() id: string, @Query() { author }: AuthorDto): Promise<OpenedDto | StreamableFile> {
    return (await this.projects.opensHere(id))
      ? this.projects.open(id, author ?? null)
      : this.heavy.open(id, author ?? null);
  }

  @Get(':id/document')
  @ApiOperation({ summary: 'Export the document' })
  @ApiOkResponse({ schema: { type: 'object' } })
  async document(
    @ProjectId() id: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const done = await this.heavy.document(id);
    response.attachment(`${fileName(done.name ?? '')}.oquel.json`);
    return asJson(done);
  }
}
