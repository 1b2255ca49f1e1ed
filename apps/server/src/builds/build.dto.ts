import { ApiProperty } from '@nestjs/swagger';
import {
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import { MAX_VERSION } from '../projects/edit.log.js';
import { Sayable } from '../http/sayable.js';

/** Of a request that is done once, however often it is sent. */
class Keyed {
  @ApiProperty({
    required: false,
    format: 'uuid',
    description: 'Sent twice with the same key it is done once.',
  })
  @IsOptional()
  @IsUUID()
  key?: string;
}
class Named extends Keyed {
  @ApiProperty({ minLength: 1, maxLength: 100, description: 'Unique among the builds of a project.' })
  @IsString()
  @Length(1, 100)
  @Matches(/\S/, { message: 'name must not be blank' })
  @Sayable()
  name: string;

  @ApiProperty({ required: false, maxLength: 2000 })
  @IsOptional()
  @IsString()
  @MaxLength(2000)
  @Sayable()
  note?: string;

  @ApiProperty({ minLength: 1, maxLength: 100 })
  @IsString()
  @Length(1, 100)
  @Sayable()
  who: string;
}
export class FreezeDto extends Named {
  @ApiProperty({ minimum: 1, description: 'The version that is to be frozen; it must be the stored one.' })
  @IsInt()
  @Min(1)
  @Max(MAX_VERSION)
  base: number;
}
/** The query of an import; the body is the document. */
export class BuildImportDto extends Named {}

export class SayDto extends Keyed {
  @ApiProperty({ enum: ['through', 'back'], description: 'Lets the build through, or holds it back.' })
  @IsIn(['through', 'back'])
  verdict: 'through' | 'back';

  @ApiProperty({ required: false, maxLength: 2000, description: 'Needed where it goes against the gate.' })
  @IsOptional()
  @IsString()
  @MaxLength(2000)
  @Sayable()
  reason?: string;

  @ApiProperty({ minLength: 1, maxLength: 100 })
  @IsString()
  @Length(1, 100)
  @Sayable()
  who: string;
}

export class BuildVerdictDto {
  @ApiProperty({ enum: ['through', 'back'] }) verdict: 'through' | 'back';
  @ApiProperty() who: string;
  @ApiProperty({ format: 'date-time' }) at: Date;
  @ApiProperty() reason: string;
}
export class WaivedDto {
  @ApiProperty() rule: string;
  @ApiProperty() message: string;
  @ApiProperty() reason: string;
  @ApiProperty() by: string;
  @ApiProperty({ nullable: true, type: String, description: 'ISO date' }) until: string | null;
}
export class BuildDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty() name: string;
  @ApiProperty() note: string;
  @ApiProperty({ description: 'Who froze it.' }) who: string;
  @ApiProperty({ format: 'date-time' }) at: Date;
  @ApiProperty({ nullable: true, type: Number, description: 'Null for a document put in as a build.' })
  version: number | null;
  @ApiProperty({ enum: ['pass', 'stop'] }) gate: 'pass' | 'stop';
  @ApiProperty({
    type: 'object',
    additionalProperties: { type: 'number' },
    description: 'Findings, counted.',
  })
  summary: Record<string, number>;
  @ApiProperty({ type: 'object', additionalProperties: { type: 'number' }, description: 'Of the graph.' })
  metrics: Record<string, number>;
  @ApiProperty({ type: [WaivedDto] }) waived: WaivedDto[];
  @ApiProperty({ type: [BuildVerdictDto], description: 'What people said of it; the last one counts.' })
  verdicts: BuildVerdictDto[];
}
