import { Controller, Get, Inject, Param, ParseUUIDPipe, Post, Req, Res } from '@nestjs/common';
import { ApiBody, ApiCreatedResponse, ApiOkResponse, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { fileName } from '../http/file-name.js';
import { badRequest, noSuchProject } from '../http/problem.js';
import { ImportedDto, OpenedDto, ProjectDto } from './project.dto.js';
import { ProjectsService } from './projects.service.js';

/** An id that is no UUID names no project. */
export const ProjectId = (): ParameterDecorator =>
  Param('id', new ParseUUIDPipe({ exceptionFactory: () => noSuchProject() }));

@ApiTags('projects')
@Controller('api/projects')
export class ProjectsController {
  constructor(@Inject(ProjectsService) private readonly projects: ProjectsService) {}

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
  import(@Req() request: Request): Promise<ImportedDto> {
    if (typeof request.body !== 'string') throw badRequest('the body must be a project document');
    return this.projects.import(request.body);
  }

  @Get(':id')
  @ApiOperation({ summary: 'A project as it is now' })
  @ApiOkResponse({ type: OpenedDto })
  open(@ProjectId() id: string): Promise<OpenedDto> {
    return this.projects.open(id);
  }

  @Get(':id/document')
  @ApiOperation({ summary: 'Export the document' })
  @ApiOkResponse({ schema: { type: 'object' } })
  async document(@ProjectId() id: string, @Res({ passthrough: true }) response: Response): Promise<object> {
    const project = await this.projects.document(id);
    response.attachment(`${fileName(project.name)}.oquel.json`);
    return project;
  }
}
