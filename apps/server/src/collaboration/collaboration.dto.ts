import { ApiProperty } from '@nestjs/swagger';
import { Transform, Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsString,
  IsUUID,
  Length,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import { Sayable } from '../http/sayable.js';
import { LIMITS } from '../limits.js';

/** A window, and where it is. */
export class PresentDto {
  @ApiProperty({ format: 'uuid', description: 'Names the window.' })
  @IsUUID()
  client: string;

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
export class WindowDto extends PresentDto {
  @ApiProperty({ format: 'uuid' })
  @IsUUID()
  project: string;
}
/** The query of a stream. */
export class CollaborationDto {
  @ApiProperty({ format: 'uuid', description: 'Names the connection; another one each time.' })
  @IsUUID()
  stream: string;

  @ApiProperty({ type: String, description: 'Ids of the projects that are followed, with commas between.' })
  @Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.split(',') : value))
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(LIMITS.live.windows)
  @IsUUID(undefined, { each: true })
  projects: string[];
}
/** All windows of a browser; its one stream speaks for them. */
export class WindowsDto {
  @ApiProperty({ type: [WindowDto], maxItems: LIMITS.live.windows })
  @IsArray()
  @ArrayMaxSize(LIMITS.live.windows)
  @ValidateNested({ each: true })
  @Type(() => WindowDto)
  windows: WindowDto[];
}
/** Data of the events: `version`, `presence`, `builds`, `plays` and `gone`, each of one project. */
export class VersionEventDto {
  @ApiProperty({ format: 'uuid' }) project: string;
  @ApiProperty() version: number;
}
/** Everybody at first, then who came or moved, and who left. */
export class PresenceEventDto {
  @ApiProperty({ format: 'uuid' }) project: string;
  @ApiProperty({ type: [PresentDto], required: false }) all?: PresentDto[];
  @ApiProperty({ type: [PresentDto], required: false }) came?: PresentDto[];
  @ApiProperty({ type: [String], required: false, description: 'Windows.' }) left?: string[];
}
