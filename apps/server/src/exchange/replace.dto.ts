import { ApiProperty, PickType } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsInt, IsOptional, Max, Min } from 'class-validator';
import { EditHeadDto } from '../edits/edit.dto.js';
import { MAX_VERSION } from '../projects/edit.log.js';

/** The query of a document that takes a project's place. */
export class ReplaceDto extends PickType(EditHeadDto, ['label', 'who', 'key', 'author'] as const) {
  @ApiProperty({
    minimum: 1,
    maximum: MAX_VERSION,
    description: 'The version that the document was compared with.',
  })
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(MAX_VERSION)
  base: number;

  @ApiProperty({
    minimum: 0,
    maximum: MAX_VERSION,
    required: false,
    description: 'The version that the client has.',
  })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(0)
  @Max(MAX_VERSION)
  have?: number;
}
