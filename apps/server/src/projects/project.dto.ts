import { ApiProperty } from '@nestjs/swagger';
import { IsOptional, IsUUID } from 'class-validator';
import { AheadDto } from './ahead.dto.js';

/** A line of the list of projects. */
export class ProjectDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty() name: string;
  @ApiProperty({ description: 'Counts the edits; an edit is made against a version.' }) version: number;
  @ApiProperty({ format: 'date-time' }) createdAt: Date;
  @ApiProperty({ format: 'date-time' }) updatedAt: Date;
}

export class ImportedDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty() version: number;
  @ApiProperty({
    type: [String],
    description: 'JSON pointers of properties that the format does not know; they are kept.',
  })
  unknown: string[];
  @ApiProperty({
    type: [String],
    description: 'JSON pointers of properties that stand more than once; the last of each counts.',
  })
  repeated: string[];
}

/** The query of an import. */
export class ImportDto {
  @ApiProperty({
    required: false,
    format: 'uuid',
    description: 'Sent twice with the same key it is stored once.',
  })
  @IsOptional()
  @IsUUID()
  key?: string;
}
/** Who asks for a project. */
export class AuthorDto {
  @ApiProperty({ required: false, format: 'uuid', description: 'Whose undo and redo are told.' })
  @IsOptional()
  @IsUUID()
  author?: string;
}

export class OpenedDto extends AheadDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty() version: number;
  @ApiProperty({ type: 'object', additionalProperties: true, description: 'The document, oquel.project/1.' })
  document: object;
}
