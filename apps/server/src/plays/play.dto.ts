import { ApiProperty } from '@nestjs/swagger';
import { IsNumber, IsOptional, IsString, Length, Max, Min } from 'class-validator';
import { Type } from 'class-transformer';
import { Sayable } from '../http/sayable.js';

/** How a sending is to be judged. */
export class PlayQueryDto {
  @ApiProperty({ required: false, maxLength: 200, description: 'Session of lines that do not name theirs.' })
  @IsOptional()
  @IsString()
  @Length(1, 200)
  @Sayable()
  session?: string;

  @ApiProperty({ required: false, description: 'The scenes that the game had loaded; all without it.' })
  @IsOptional()
  @IsString()
  @Length(1, 1000)
  loadSet?: string;

  @ApiProperty({ required: false, description: 'Seconds by which the game may be early or late.' })
  @IsOptional()
  @Type(() => Number)
  @IsNumber()
  @Min(0)
  @Max(3600)
  tolerance?: number;

  @ApiProperty({ required: false, description: 'Hash of the wiring that the game ran.' })
  @IsOptional()
  @IsString()
  @Length(1, 200)
  wiring?: string;
}
export class PlayFiguresDto {
  @ApiProperty() sessions!: number;
  @ApiProperty() records!: number;
  @ApiProperty({ description: 'Of all sessions together.' }) seconds!: number;
  @ApiProperty({ description: 'Lines that could not be read.' }) broken!: number;
  @ApiProperty({ description: 'Expanded bindings that have served.' }) served!: number;
  @ApiProperty({ description: 'Expanded bindings in all.' }) of!: number;
  @ApiProperty({ description: 'What did not follow, came twice, or in another order.' }) wrong!: number;
  @ApiProperty({ description: 'What other code does, and names that the project does not know.' })
  elsewhere!: number;
}
/** What a sending came to. */
export class PlayDto {
  @ApiProperty({ format: 'uuid' }) id!: string;
  @ApiProperty({ format: 'date-time' }) at!: Date;
  @ApiProperty() name!: string;
  @ApiProperty({ type: PlayFiguresDto }) figures!: PlayFiguresDto;
}
export class TokenDto {
  @ApiProperty({ description: 'Sent as `Authorization: Bearer`; it is shown once.' }) token!: string;
}
export class TokenStateDto {
  @ApiProperty({
    required: false,
    format: 'date-time',
    description: 'When the token was made, if there is one.',
  })
  at?: Date;
}
