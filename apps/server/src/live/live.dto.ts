import { ApiProperty } from '@nestjs/swagger';
import { IsString, IsUUID, Length, MaxLength } from 'class-validator';
import { Sayable } from '../http/sayable.js';

/** Where a window is. */
export class PlaceDto {
  @ApiProperty({ minLength: 1, maxLength: 100 })
  @IsString()
  @Length(1, 100)
  @Sayable()
  who: string;

  @ApiProperty({ maxLength: 2000, description: 'What it looks at: the address from the project on.' })
  @IsString()
  @MaxLength(2000)
  @Sayable()
  place: string;
}
export class LiveDto extends PlaceDto {
  @ApiProperty({ format: 'uuid', description: 'Names the window.' })
  @IsUUID()
  client: string;
}
export class PresentDto {
  @ApiProperty({ format: 'uuid' }) client: string;
  @ApiProperty() who: string;
  @ApiProperty() place: string;
}
