import { ApiProperty } from '@nestjs/swagger';
import { IsNotEmpty, IsString, IsUUID, IsOptional, Length, Matches, MaxLength } from 'class-validator';
import { Sayable } from '../http/sayable.js';
import { ROLES, type Role } from './roles.js';

/** So long a password may be sent; how long it may be is said where it is set. */
const SENT = 1000;

export class SignInDto {
  @ApiProperty({ maxLength: 100 }) @IsString() @MaxLength(100) login: string;
  @ApiProperty({ maxLength: SENT }) @IsString() @MaxLength(SENT) password: string;
}
export class SecretDto {
  @ApiProperty({ maxLength: 200, description: 'What stands after # in the link of an invitation.' })
  @IsString()
  @IsNotEmpty()
  @MaxLength(200)
  secret: string;
}
export class JoinDto extends SecretDto {
  @ApiProperty({ description: 'The sign-in name: letters, digits, and . _ - @ +' })
  @IsString()
  @Length(1, 100)
  @Matches(/^[\p{L}\p{N}._@+-]+$/u, { message: 'login may have letters, digits, and . _ - @ +' })
  login: string;

  @ApiProperty({ minLength: 1, maxLength: 100, description: 'Stands in history, waivers and builds.' })
  @IsString()
  @Length(1, 100)
  @Matches(/\S/, { message: 'name must not be blank' })
  @Sayable()
  name: string;

  @ApiProperty({ maxLength: SENT }) @IsString() @MaxLength(SENT) password: string;
}
export class PasswordDto {
  @ApiProperty({ maxLength: SENT, description: 'The one until now.' })
  @IsString()
  @MaxLength(SENT)
  old: string;

  @ApiProperty({ maxLength: SENT }) @IsString() @MaxLength(SENT) password: string;
}
export class WhichProjectDto {
  @ApiProperty({ required: false, format: 'uuid', description: 'Whose role is asked for.' })
  @IsOptional()
  @IsUUID()
  project?: string;
}
export class OwnAccountDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty() name: string;
  @ApiProperty() isAdministrator: boolean;
}
export class SessionDto {
  @ApiProperty({ description: 'Whether people sign in on this server.' }) team: boolean;
  @ApiProperty({ type: OwnAccountDto, nullable: true, description: 'Who has signed in.' })
  account: OwnAccountDto | null;
  @ApiProperty({
    nullable: true,
    type: String,
    description: 'What single sign-on is called; null where there is none.',
  })
  sso: string | null;
  @ApiProperty({ enum: ROLES, nullable: true, description: 'In the project that was asked for.' })
  role: Role | null;
}
export class OwnSessionDto {
  @ApiProperty({ format: 'uuid' }) id: string;
  @ApiProperty({ description: 'The browser, as it calls itself.' }) agent: string;
  @ApiProperty({ format: 'date-time' }) begun: Date;
  @ApiProperty({ format: 'date-time' }) seen: Date;
  @ApiProperty({ description: 'The one that asks.' }) isThis: boolean;
}
export class OfferDto {
  @ApiProperty() isAdministrator: boolean;
  @ApiProperty({ nullable: true, type: String }) projectName: string | null;
  @ApiProperty({ enum: ROLES, nullable: true }) role: Role | null;
  @ApiProperty({ nullable: true, type: String, description: 'Whose password it sets anew.' })
  personName: string | null;
  @ApiProperty() madeBy: string;
}
