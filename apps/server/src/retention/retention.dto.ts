import { ApiProperty } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsInt, IsOptional, Max, Min } from 'class-validator';
import { LIMITS } from '../limits.js';

const { leastDays, mostDays } = LIMITS.retention;

/** How old what goes has to be; a part that is not named stays whole. */
export class AgesDto {
  @ApiProperty({
    required: false,
    minimum: leastDays,
    maximum: mostDays,
    description: 'Edits of the history that are older than so many days.',
  })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(leastDays)
  @Max(mostDays)
  history?: number;

  @ApiProperty({
    required: false,
    minimum: leastDays,
    maximum: mostDays,
    description: 'Builds that are older than so many days.',
  })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(leastDays)
  @Max(mostDays)
  builds?: number;
}
export class AmountDto {
  @ApiProperty({ description: 'How many there are.' }) all: number;
  @ApiProperty({ description: 'How many of them go.' }) going: number;
  @ApiProperty({ description: 'Bytes that those take in the database.' }) bytes: number;
}
export class ProjectAmountsDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty() name: string;
  @ApiProperty({ type: AmountDto }) history: AmountDto;
  @ApiProperty({ type: AmountDto }) builds: AmountDto;
}
