import { ApiProperty } from '@nestjs/swagger';
import { IsOptional, IsString, Length } from 'class-validator';
import { ReplaceDto } from './replace.dto.js';

/** The query of a manifest that is merged into a project. */
export class DeclarationsDto extends ReplaceDto {
  @ApiProperty({ required: false, description: 'By which it is known again what came from here.' })
  @IsOptional()
  @IsString()
  @Length(1, 1000)
  origin?: string;
}
