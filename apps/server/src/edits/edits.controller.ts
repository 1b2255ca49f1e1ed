import { Body, Controller, Get, Inject, Post, Query, Req, type StreamableFile } from '@nestjs/common';
import { ApiBody, ApiCreatedResponse, ApiOkResponse, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Request } from 'express';
import { HeavyService } from '../heavy/heavy.service.js';
import { isLarge, jsonBody } from '../http/bodies.js';
import { ProjectId } from '../http/project-id.js';
import { EditDto, editOf, EditsDto, SinceDto, StepDto, TakeBackDto } from './edit.dto.js';
import { EditsService } from './edits.service.js';
import { ProjectQueue } from './project.queue.js';
import { By, signed, type Actor } from '../team/actor.js';
import { Needs } from '../team/roles.js';

type Answer = Promise<EditsDto | StreamableFile>;

@ApiTags('edits')
@Controller('api/projects/:id')
export class EditsController {
  constructor(
    @Inject(EditsService) private readonly edits: EditsService,
    @Inject(ProjectQueue) private readonly queue: ProjectQueue,
    @Inject(HeavyService) private readonly heavy: HeavyService,
  ) {}

  @Needs('designer')
  @Post('edits')
  @ApiOperation({ summary: 'Apply a change set' })
  @ApiBody({ type: EditDto })
  @ApiCreatedResponse({ type: EditsDto })
  edit(@ProjectId() id: string, @Req() request: Request, @By() by: Actor | null): Answer {
    const { body } = request as { body: unknown };
    if (isLarge(body)) return this.queue.run(id, () => this.heavy.edit(id, body, by));
    const { head, changes } = editOf(jsonBody(body));
    return this.queue.run(id, () => this.edits.edit(id, signed(head, by), changes));
  }

  @Needs('reader')
  @Get('edits')
  @ApiOperation({ summary: 'Edits after a version, oldest first' })
  @ApiOkResponse({ type: EditsDto })
  since(@ProjectId() id: string, @Query() { after, author }: SinceDto): Promise<EditsDto> {
    return this.edits.since(id, after, author ?? null);
  }

  @Needs('designer')
  @Post('undo')
  @ApiOperation({ summary: 'Undo one’s own last edit' })
  @ApiCreatedResponse({ type: EditsDto })
  undo(@ProjectId() id: string, @Body() dto: StepDto, @By() by: Actor | null): Answer {
    return this.step(id, 'undo', signed(dto, by));
  }

  @Needs('designer')
  @Post('redo')
  @ApiOperation({ summary: 'Redo the edit that one undid last' })
  @ApiCreatedResponse({ type: EditsDto })
  redo(@ProjectId() id: string, @Body() dto: StepDto, @By() by: Actor | null): Answer {
    return this.step(id, 'redo', signed(dto, by));
  }

  @Needs('designer')
  @Post('take-back')
  @ApiOperation({ summary: 'Undo an older edit, when nothing later touches what it touched' })
  @ApiCreatedResponse({ type: EditsDto })
  takeBack(@ProjectId() id: string, @Body() asked: TakeBackDto, @By() by: Actor | null): Answer {
    const dto = signed(asked, by);
    return this.queue.run(id, async () =>
      (await this.edits.isLarge(id, dto.version))
        ? this.heavy.takeBack(id, dto)
        : this.edits.takeBack(id, dto),
    );
  }

  private step(id: string, way: 'undo' | 'redo', dto: StepDto): Answer {
    return this.queue.run(id, async () =>
      (await this.edits.isLarge(id, await this.edits.meant(id, way, dto)))
        ? this.heavy.step(id, way, dto)
        : this.edits.step(id, way, dto),
    );
  }
}
