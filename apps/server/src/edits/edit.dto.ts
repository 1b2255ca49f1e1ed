import { ApiProperty } from '@nestjs/swagger';
import {
  ArrayMinSize,
  IsArray,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Min,
} from 'class-validator';
import { Sayable } from '../http/sayable.js';

/** An edit made against a version of the project. */
export class EditDto {
  @ApiProperty({ minimum: 1, description: 'The version that the edit was made against.' })
  @IsInt()
  @Min(1)
  base: number;

  @ApiProperty({ minLength: 1, maxLength: 500, description: 'A sentence for the history.' })
  @IsString()
  @Length(1, 500)
  @Sayable()
  label: string;

  @ApiProperty({ type: 'array', minItems: 1, items: { type: 'object', additionalProperties: true } })
  @IsArray()
  @ArrayMinSize(1)
  @IsObject({ each: true })
  changes: object[];

  @ApiProperty({ minLength: 1, maxLength: 100, description: 'Who makes it.' })
  @IsString()
  @Length(1, 100)
  @Sayable()
  who: string;

  @ApiProperty({
    format: 'uuid',
    required: false,
    description: 'A request with a key that is known is not done twice.',
  })
  @IsOptional()
  @IsUUID()
  key?: string;
}

export class StepDto {
  @ApiProperty({ minimum: 1, description: 'The version that the client has.' })
  @IsInt()
  @Min(1)
  base: number;

  @ApiProperty({ minLength: 1, maxLength: 100 })
  @IsString()
  @Length(1, 100)
  @Sayable()
  who: string;

  @ApiProperty({
    format: 'uuid',
    required: false,
    description: 'A request with a key that is known is not done twice.',
  })
  @IsOptional()
  @IsUUID()
  key?: string;
}

/** An older edit that is to be taken back. */
export class TakeBackDto extends StepDto {
  @ApiProperty({ minimum: 2, description: 'The version that the edit brought about.' })
  @IsInt()
  @Min(2)
  version: number;
}

export class LoggedEditDto {
  @ApiProperty() version: number;
  @ApiProperty({ enum: ['edit', 'undo', 'redo'] }) kind: 'edit' | 'undo' | 'redo';
  @ApiProperty() label: string;
  @ApiProperty() who: string;
  @ApiProperty({ format: 'date-time' }) at: Date;
  @ApiProperty({ description: 'An edit that has not been undone meanwhile.' }) inForce: boolean;
  @ApiProperty({ type: 'array', items: { type: 'object', additionalProperties: true } }) changes: object[];
  @ApiProperty({ nullable: true, type: String, format: 'uuid' }) key: string | null;
}

export class EditedDto {
  @ApiProperty({ description: 'The version that the edit brought about.' }) version: number;
  @ApiProperty({ type: [LoggedEditDto], description: 'All edits since the base, this one last.' })
  edits: LoggedEditDto[];
  @ApiProperty({ nullable: true, type: String }) undo: string | null;
  @ApiProperty({ nullable: true, type: String }) redo: string | null;
}
