import { Controller, Inject, Post, Query, Req } from '@nestjs/common';
import { ApiBody, ApiCreatedResponse, ApiOperation, ApiProperty, ApiTags, PickType } from '@nestjs/swagger';
import { readProjectText } from '@oquel/core';
import { Type } from 'class-transformer';
import { IsInt, Min } from 'class-validator';
import type { Request } from 'express';
import { EditDto, EditedDto } from '../edits/edit.dto.js';
import { EditsService } from '../edits/edits.service.js';
import { badRequest } from '../http/problem.js';
import { ProjectId } from '../projects/projects.controller.js';

/** The query of a document that takes a project's place. */
export class ReplaceDto extends PickType(EditDto, ['label', 'who', 'key'] as const) {
  @ApiProperty({ minimum: 1, description: 'The version that the document was compared with.' })
  @Type(() => Number)
  @IsInt()
  @Min(1)
  base: number;
}

@ApiTags('exchange')
@Controller('api/projects/:id/replace')
export class ExchangeController {
  constructor(@Inject(EditsService) private readonly edits: EditsService) {}

  @Post()
  @ApiOperation({ summary: 'Make the project like a document; an edit that can be undone' })
  @ApiBody({ description: 'The document, oquel.project/1', schema: { type: 'object' } })
  @ApiCreatedResponse({ type: EditedDto })
  replace(@ProjectId() id: string, @Query() dto: ReplaceDto, @Req() request: Request): Promise<EditedDto> {
    if (typeof request.body !== 'string') throw badRequest('the body must be a project document');
    const { project } = readProjectText(request.body);
    return this.edits.makeLike(id, dto, project, dto.label, true);
  }
}
