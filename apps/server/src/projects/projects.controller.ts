import {
  Body,
  Controller,
  Get,
  HttpCode,
  Inject,
  Patch,
  Post,
  Query,
  Req,
  Res,
  StreamableFile,
} from '@nestjs/common';
import {
  ApiBody,
  ApiCreatedResponse,
  ApiNoContentResponse,
  ApiOkResponse,
  ApiOperation,
  ApiTags,
} from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { asJson, HeavyService } from '../heavy/heavy.service.js';
import { fileName } from '../http/file-name.js';
import { badRequest } from '../http/problem.js';
import { ProjectId } from '../http/project-id.js';
import {
  AuthorDto,
  CopiedDto,
  CopyDto,
  StateDto,
  ImportDto,
  ImportedDto,
  OpenedDto,
  ProjectDto,
} from './project.dto.js';
import { ProjectList } from './project-list.js';
import { ProjectStates } from './project-states.js';
import { ProjectsService } from './projects.service.js';
import { By, type Actor } from '../team/actor.js';
import { Needs } from '../team/roles.js';
import { addressOf, SecurityLog } from '../team/security.log.js';

@ApiTags('projects')
@Controller('api/projects')
export class ProjectsController {
  constructor(
    @Inject(ProjectsService) private readonly projects: ProjectsService,
    @Inject(ProjectList) private readonly lines: ProjectList,
    @Inject(ProjectStates) private readonly states: ProjectStates,
    @Inject(HeavyService) private readonly heavy: HeavyService,
    @Inject(SecurityLog) private readonly log: SecurityLog,
  ) {}

  @Needs('account')
  @Get()
  @ApiOperation({ summary: 'All projects, archived and deleted ones too, the last changed first' })
  @ApiOkResponse({ type: [ProjectDto] })
  list(@By() by: Actor | null): Promise<ProjectDto[]> {
    return this.lines.all(by === null || by.isAdministrator ? null : by.id);
  }

  @Needs('account')
  @Post()
  @ApiOperation({ summary: 'Import a document as a new project' })
  @ApiBody({ description: 'The document, oquel.project/1', schema: { type: 'object' } })
  @ApiCreatedResponse({ type: ImportedDto })
  import(
    @Req() request: Request,
    @Query() { key }: ImportDto,
    @By() by: Actor | null,
  ): Promise<StreamableFile> {
    const { body } = request as { body: unknown };
    if (!Buffer.isBuffer(body)) throw badRequest('the body must be a project document');
    return this.heavy.import(body, key ?? null, by?.id ?? null);
  }

  @Needs('reader')
  @Get(':id')
  @ApiOperation({ summary: 'A project as it is now' })
  @ApiOkResponse({ type: OpenedDto })
  async open(
    @ProjectId() id: string,
    @Query() { author }: AuthorDto,
    @Res({ passthrough: true }) response: Response,
  ): Promise<OpenedDto | StreamableFile> {
    if (await this.projects.opensHere(id)) return this.projects.open(id, author ?? null);
    const opened = await this.heavy.open(id, author ?? null);
    // The body is compressed, so its length does not say how much is still to come.
    response.setHeader('Oquel-Body-Bytes', opened.getHeaders().length ?? 0);
    return opened;
  }

  @Needs('reader', { scope: 'audit' })
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

  @Needs('lead')
  @Patch(':id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Archive a project, put it into the bin, or restore it' })
  @ApiNoContentResponse()
  async state(
    @ProjectId() id: string,
    @Body() dto: StateDto,
    @By() by: Actor | null,
    @Req() request: Request,
  ): Promise<void> {
    await this.states.set(id, dto);
    if (!by) return;
    const from = addressOf(request);
    await this.log.write({ what: 'project-state', who: by.name, from, project: id, detail: dto.state });
  }

  @Needs('reader')
  @Post(':id/copy')
  @ApiOperation({ summary: 'Copy a project as it is now, without its history and builds' })
  @ApiCreatedResponse({ type: CopiedDto })
  async copy(@ProjectId() id: string, @Body() dto: CopyDto, @By() by: Actor | null): Promise<CopiedDto> {
    return { id: await this.states.copy(id, dto, by?.id ?? null) };
  }
}
