import { ApiProperty } from '@nestjs/swagger';
import {
  ArrayMaxSize,
  IsArray,
  IsInt,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Max,
  Min,
} from 'class-validator';
import { Type } from 'class-transformer';
import { Sayable } from '../http/sayable.js';
import { validated } from '../http/validated.js';
import { LIMITS } from '../limits.js';
import { AheadDto } from '../projects/ahead.dto.js';
import { MAX_VERSION } from '../projects/edit.log.js';
import type { Actor } from '../team/actor.js';

/** Who asks for an edit, and what they had seen. */
export class AskDto {
  /** Whom the server knows it to be, on a team's; it is never sent. */
  declare by?: Actor;

  @ApiProperty({ minimum: 1, maximum: MAX_VERSION, description: 'The version that its author saw.' })
  @IsInt()
  @Min(1)
  @Max(MAX_VERSION)
  base: number;

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

  @ApiProperty({
    format: 'uuid',
    required: false,
    description: 'Names the browser that it comes from: undo and redo take its own edits.',
  })
  @IsOptional()
  @IsUUID()
  author?: string;

  @ApiProperty({
    type: [String],
    required: false,
    maxItems: LIMITS.edits.seen,
    description: 'Keys of edits after the base that its author had seen too, being their own.',
  })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(LIMITS.edits.seen)
  @IsUUID(undefined, { each: true })
  seen?: string[];

  @ApiProperty({
    minimum: 0,
    maximum: MAX_VERSION,
    required: false,
    description: 'The version that the client has: edits after it are answered. Default: the base.',
  })
  @IsOptional()
  @IsInt()
  @Min(0)
  @Max(MAX_VERSION)
  have?: number;
}

/** An edit made against a version of the project, without its changes, which the core checks. */
export class EditHeadDto extends AskDto {
  @ApiProperty({ minLength: 1, maxLength: 500, description: 'A sentence for the history.' })
  @IsString()
  @Length(1, 500)
  @Sayable()
  label: string;
}
/** As it is sent. */
export class EditDto extends EditHeadDto {
  @ApiProperty({ type: 'array', minItems: 1, items: { type: 'object', additionalProperties: true } })
  changes: object[];
}

/** The two parts of an edit: its head, checked here, and its changes, which the core checks and nobody touches before. */
export function editOf(body: unknown): { head: EditHeadDto; changes: unknown } {
  const { changes, ...head } = (body ?? {}) as Record<string, unknown>;
  return { head: validated(EditHeadDto, head), changes };
}

/** Which edits are asked for. */
export class SinceDto {
  @ApiProperty({ minimum: 0, maximum: MAX_VERSION })
  @Type(() => Number)
  @IsInt()
  @Min(0)
  @Max(MAX_VERSION)
  after: number;

  @ApiProperty({
    required: false,
    format: 'uuid',
    description: 'The author whose undo and redo are returned.',
  })
  @IsOptional()
  @IsUUID()
  author?: string;
}

export class StepDto extends AskDto {
  @ApiProperty({
    minimum: 2,
    maximum: MAX_VERSION,
    required: false,
    description:
      'The edit that is meant, by the version that it brought about. Default: whichever comes next.',
  })
  @IsOptional()
  @IsInt()
  @Min(2)
  @Max(MAX_VERSION)
  version?: number;
}

/** An older edit, anybody's, that is to be undone alone. */
export class TakeBackDto extends AskDto {
  @ApiProperty({
    minimum: 2,
    maximum: MAX_VERSION,
    description: 'The version that the edit brought about.',
  })
  @IsInt()
  @Min(2)
  @Max(MAX_VERSION)
  version: number;
}

export class LoggedEditDto {
  @ApiProperty() version: number;
  @ApiProperty({ enum: ['edit', 'undo', 'redo'] }) kind: 'edit' | 'undo' | 'redo';
  @ApiProperty() label: string;
  @ApiProperty() who: string;
  @ApiProperty({ nullable: true, type: String, format: 'uuid' }) author: string | null;
  @ApiProperty({ format: 'date-time' }) at: Date;
  @ApiProperty({ description: 'An edit that has not been undone meanwhile.' }) inForce: boolean;
  @ApiProperty({ type: 'array', items: { type: 'object', additionalProperties: true } }) changes: object[];
  @ApiProperty({ nullable: true, type: String, format: 'uuid' }) key: string | null;
}
export class EditsDto extends AheadDto {
  @ApiProperty({ description: 'The stored version of the project.' }) version: number;
  @ApiProperty({ type: [LoggedEditDto], description: 'Edits after the version that was asked for.' })
  edits: LoggedEditDto[];
  @ApiProperty({ description: 'False where there are more; whoever needs them all opens the project.' })
  complete: boolean;
}
