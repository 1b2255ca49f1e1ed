import { ApiProperty } from '@nestjs/swagger';
import { IsIn, IsOptional, IsString, IsUUID, Length } from 'class-validator';
import type { ProjectState } from '../database/schema.js';
import { AheadDto } from './ahead.dto.js';

const STATES: ProjectState[] = ['open', 'archived', 'deleted'];

/** The gate of an audit, with its counts. */
export class GateDto {
  @ApiProperty({ description: 'The version that was audited.' }) version: number;
  @ApiProperty({ description: 'The ISO date on which waivers were judged.' }) today: string;
  @ApiProperty({ enum: ['pass', 'stop'] }) gate: 'pass' | 'stop';
  @ApiProperty() error: number;
  @ApiProperty() warning: number;
  @ApiProperty() info: number;
  @ApiProperty() waived: number;
  @ApiProperty({ description: 'Bindings of the document.' }) bindings: number;
}
export class LastChangeDto {
  @ApiProperty() who: string;
  @ApiProperty({ description: 'The edit, as a sentence.' }) label: string;
}

/** A line of the list of projects. */
export class ProjectDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty() name: string;
  @ApiProperty({ description: 'Counts the edits; an edit is made against a version.' }) version: number;
  @ApiProperty({ enum: STATES }) state: ProjectState;
  @ApiProperty({ format: 'date-time' }) createdAt: Date;
  @ApiProperty({ format: 'date-time' }) updatedAt: Date;
  @ApiProperty({ required: false, description: 'The last edit; absent where there was none.' })
  last?: LastChangeDto;
  @ApiProperty({ type: [String], description: 'Who has it open now.' }) here: string[];
  @ApiProperty({
    type: GateDto,
    nullable: true,
    description:
      'The newest audit; of an earlier version where it was edited since. Null where there was none.',
  })
  gate: GateDto | null;
  @ApiProperty({
    type: String,
    format: 'date-time',
    nullable: true,
    description: 'When a deleted project is gone for good.',
  })
  goneAt: Date | null;
}
export class StateDto {
  @ApiProperty({
    enum: STATES,
    description: 'A deleted project can be restored until it is removed for good.',
  })
  @IsIn(STATES)
  state: ProjectState;
}
export class CopyDto {
  @ApiProperty({ maxLength: 200 })
  @IsString()
  @Length(1, 200)
  name: string;
  @ApiProperty({ format: 'uuid', description: 'Sent twice with the same key it is made once.' })
  @IsUUID()
  key: string;
}
export class CopiedDto {
  @ApiProperty({ format: 'uuid' }) id: string;
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
  @ApiProperty({
    required: false,
    format: 'uuid',
    description: 'The author whose undo and redo are returned.',
  })
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
