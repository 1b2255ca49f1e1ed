import { ApiProperty } from '@nestjs/swagger';

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
}

export class OpenedDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty() version: number;
  @ApiProperty({ type: 'object', additionalProperties: true, description: 'The document, oquel.project/1.' })
  document: object;
  @ApiProperty({ nullable: true, type: String, description: 'What undo would take back; null for nothing.' })
  undo: string | null;
  @ApiProperty({
    nullable: true,
    type: String,
    description: 'What redo would bring again; null for nothing.',
  })
  redo: string | null;
}
