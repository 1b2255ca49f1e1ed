import { Body, Controller, Get, Inject, ParseIntPipe, Post, Query } from '@nestjs/common';
import { ApiCreatedResponse, ApiOkResponse, ApiOperation, ApiTags } from '@nestjs/swagger';
import { ProjectId } from '../projects/projects.controller.js';
import { EditDto, EditedDto, LoggedEditDto, StepDto, TakeBackDto } from './edit.dto.js';
import { EditsService } from './edits.service.js';

@ApiTags('edits')
@Controller('api/projects/:id')
export class EditsController {
  constructor(@Inject(EditsService) private readonly edits: EditsService) {}

  @Post('edits')
  @ApiOperation({ summary: 'Apply a change set' })
  @ApiCreatedResponse({ type: EditedDto })
  edit(@ProjectId() id: string, @Body() dto: EditDto): Promise<EditedDto> {
    return this.edits.edit(id, dto);
  }

  @Get('edits')
  @ApiOperation({ summary: 'Edits after a version, oldest first' })
  @ApiOkResponse({ type: [LoggedEditDto] })
  since(@ProjectId() id: string, @Query('after', ParseIntPipe) after: number): Promise<LoggedEditDto[]> {
    return this.edits.since(id, after);
  }

  @Post('undo')
  @ApiOperation({ summary: 'Take the last edit back' })
  @ApiCreatedResponse({ type: EditedDto })
  undo(@ProjectId() id: string, @Body() dto: StepDto): Promise<EditedDto> {
    return this.edits.step(id, 'undo', dto);
  }

  @Post('redo')
  @ApiOperation({ summary: 'Bring the last undone edit again' })
  @ApiCreatedResponse({ type: EditedDto })
  redo(@ProjectId() id: string, @Body() dto: StepDto): Promise<EditedDto> {
    return this.edits.step(id, 'redo', dto);
  }

  @Post('take-back')
  @ApiOperation({ summary: 'Take an older edit back, when nothing later touches what it touched' })
  @ApiCreatedResponse({ type: EditedDto })
  takeBack(@ProjectId() id: string, @Body() dto: TakeBackDto): Promise<EditedDto> {
    return this.edits.takeBack(id, dto);
  }
}
