import { ApiProperty } from '@nestjs/swagger';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumberString,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import { Sayable } from '../http/sayable.js';
import { LIMITS } from '../limits.js';
import { ROLES, SCOPES, type Role, type Scope } from './roles.js';

export class PersonNameDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty() name: string;
}
export class PersonDto extends PersonNameDto {
  @ApiProperty({ description: 'The sign-in name.' }) login: string;
  @ApiProperty() isAdministrator: boolean;
  @ApiProperty({
    nullable: true,
    type: String,
    format: 'date-time',
    description: 'When the account was ended.',
  })
  endedAt: Date | null;
  @ApiProperty({ nullable: true, type: String, format: 'date-time' }) seenAt: Date | null;
}
export class PersonChangeDto {
  @ApiProperty({ required: false }) @IsOptional() @IsBoolean() isAdministrator?: boolean;
  @ApiProperty({ required: false, description: 'Ends the account, or brings it back.' })
  @IsOptional()
  @IsBoolean()
  isEnded?: boolean;
}
class Note {
  @ApiProperty({ maxLength: 200, description: 'Whom it is for.' })
  @IsString()
  @MaxLength(200)
  @Sayable()
  note: string;
}
export class InviteDto extends Note {
  @ApiProperty({ required: false }) @IsOptional() @IsBoolean() isAdministrator?: boolean;
}
export class InviteMemberDto extends Note {
  @ApiProperty({ enum: ROLES }) @IsIn(ROLES) role: Role;
}
export class InvitedDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty({ description: 'Stands after # in the link; it is shown once.' }) secret: string;
}
export class InvitationDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty() note: string;
  @ApiProperty() madeBy: string;
  @ApiProperty({ format: 'date-time' }) until: Date;
  @ApiProperty() isAdministrator: boolean;
  @ApiProperty({ enum: ROLES, nullable: true }) role: Role | null;
  @ApiProperty({ nullable: true, type: String }) projectName: string | null;
  @ApiProperty({ nullable: true, type: String }) personName: string | null;
}
export class RoleDto {
  @ApiProperty({ enum: ROLES }) @IsIn(ROLES) role: Role;
}
export class MemberDto extends RoleDto {
  @ApiProperty({ format: 'uuid' }) account: string;
  @ApiProperty() name: string;
}
export class NewTokenDto {
  @ApiProperty({ minLength: 1, maxLength: 80 })
  @IsString()
  @Length(1, 80)
  @Sayable()
  name: string;

  @ApiProperty({ enum: SCOPES, isArray: true })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(SCOPES.length)
  @IsIn(SCOPES, { each: true })
  scopes: Scope[];

  @ApiProperty({ minimum: 1, maximum: LIMITS.team.tokenDays, description: 'Days that it holds.' })
  @IsInt()
  @Min(1)
  @Max(LIMITS.team.tokenDays)
  days: number;
}
export class MadeTokenDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty({ description: 'Sent as `Authorization: Bearer`; it is shown once.' }) token: string;
}
export class ProjectTokenDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty() name: string;
  @ApiProperty({ enum: SCOPES, isArray: true }) scopes: Scope[];
  @ApiProperty() madeBy: string;
  @ApiProperty({ format: 'date-time' }) madeAt: Date;
  @ApiProperty({ format: 'date-time' }) until: Date;
  @ApiProperty({ nullable: true, type: String, format: 'date-time' }) usedAt: Date | null;
}
export class BeforeDto {
  @ApiProperty({ required: false, description: 'The id of an entry: those before it.' })
  @IsOptional()
  @IsNumberString({ no_symbols: true })
  @MaxLength(18)
  before?: string;
}
export class SecurityEntryDto {
  @ApiProperty() id: string;
  @ApiProperty({ format: 'date-time' }) at: Date;
  @ApiProperty() what: string;
  @ApiProperty() who: string;
  @ApiProperty({ description: 'The address that the request came from.' }) from: string;
  @ApiProperty({ nullable: true, type: String, description: 'The name of the project.' }) project:
    string | null;
  @ApiProperty() detail: string;
}
