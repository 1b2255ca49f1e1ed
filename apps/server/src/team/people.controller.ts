import {
  Body,
  Controller,
  Delete,
  Get,
  Header,
  HttpCode,
  Inject,
  Param,
  ParseUUIDPipe,
  Patch,
  Post,
  Query,
  Req,
} from '@nestjs/common';
import {
  ApiCreatedResponse,
  ApiNoContentResponse,
  ApiOkResponse,
  ApiOperation,
  ApiTags,
} from '@nestjs/swagger';
import type { Request } from 'express';
import { By, type Actor } from './actor.js';
import {
  BeforeDto,
  InvitationDto,
  InviteDto,
  InvitedDto,
  PersonChangeDto,
  PersonDto,
  PersonNameDto,
  SecurityEntryDto,
} from './people.dto.js';
import { People } from './people.js';
import { Needs } from './roles.js';
import { addressOf, SecurityLog, type Logged } from './security.log.js';
import { noSuch } from './team.problems.js';

/** Everybody on the server, invitations to it, and the security log. */
@ApiTags('people')
@Controller('api')
export class PeopleController {
  constructor(
    @Inject(People) private readonly people: People,
    @Inject(SecurityLog) private readonly log: SecurityLog,
  ) {}

  @Needs('administrator', { only: 'team' })
  @Get('people')
  @ApiOperation({ summary: 'Everybody who has an account, or had one' })
  @ApiOkResponse({ type: [PersonDto] })
  all(): Promise<PersonDto[]> {
    return this.people.all();
  }

  @Needs('account', { only: 'team' })
  @Get('people/names')
  @ApiOperation({ summary: 'Everybody’s names' })
  @ApiOkResponse({ type: [PersonNameDto] })
  async names(): Promise<PersonNameDto[]> {
    const all = await this.people.all();
    return all.filter((p) => p.endedAt === null).map(({ id, name }) => ({ id, name }));
  }

  @Needs('administrator', { only: 'team' })
  @Patch('people/:person')
  @HttpCode(204)
  @ApiOperation({ summary: 'Make somebody an administrator or not; end an account, or bring it back' })
  @ApiNoContentResponse()
  async change(
    @Param('person', ParseUUIDPipe) person: string,
    @Body() dto: PersonChangeDto,
    @By() by: Actor,
    @Req() request: Request,
  ): Promise<void> {
    const { name } = await this.people.change(person, dto);
    const said = [
      dto.isAdministrator === undefined ? [] : [dto.isAdministrator ? 'administrator' : 'no administrator'],
      dto.isEnded === undefined ? [] : [dto.isEnded ? 'account ended' : 'account brought back'],
    ].flat();
    await this.note('person-changed', by, request, `${name}: ${said.join(', ')}`);
  }

  @Needs('administrator', { only: 'team' })
  @Post('people/:person/password')
  @ApiOperation({ summary: 'An invitation by which somebody sets a new password' })
  @ApiCreatedResponse({ type: InvitedDto })
  async renew(
    @Param('person', ParseUUIDPipe) person: string,
    @By() by: Actor,
    @Req() request: Request,
  ): Promise<InvitedDto> {
    const found = (await this.people.all()).find((p) => p.id === person && p.endedAt === null);
    if (!found) throw noSuch('person');
    const made = await this.people.invite({ account: person }, found.name, by.name);
    await this.note('invited', by, request, `${found.name}, to set a new password`);
    return made;
  }

  @Needs('administrator', { only: 'team' })
  @Get('invitations')
  @ApiOperation({ summary: 'Invitations that are open' })
  @ApiOkResponse({ type: [InvitationDto] })
  invitations(): Promise<InvitationDto[]> {
    return this.people.invitations(null);
  }

  @Needs('administrator', { only: 'team' })
  @Post('invitations')
  @ApiOperation({ summary: 'Invite somebody to the server' })
  @ApiCreatedResponse({ type: InvitedDto })
  async invite(
    @Body() { note, isAdministrator }: InviteDto,
    @By() by: Actor,
    @Req() request: Request,
  ): Promise<InvitedDto> {
    const made = await this.people.invite({ isAdministrator }, note, by.name);
    await this.note('invited', by, request, isAdministrator === true ? `${note}, as administrator` : note);
    return made;
  }

  @Needs('administrator', { only: 'team' })
  @Delete('invitations/:invitation')
  @HttpCode(204)
  @ApiOperation({ summary: 'Withdraw an invitation' })
  @ApiNoContentResponse()
  async withdraw(
    @Param('invitation', ParseUUIDPipe) invitation: string,
    @By() by: Actor,
    @Req() request: Request,
  ): Promise<void> {
    await this.note('invitation-withdrawn', by, request, await this.people.withdraw(invitation, null));
  }

  @Needs('administrator', { only: 'team' })
  @Get('security-log')
  @ApiOperation({ summary: 'The security log, the newest first' })
  @ApiOkResponse({ type: [SecurityEntryDto] })
  entries(@Query() { before }: BeforeDto): Promise<SecurityEntryDto[]> {
    return this.log.page(before ?? null);
  }

  @Needs('administrator', { only: 'team' })
  @Get('security-log/lines')
  @Header('Content-Type', 'application/x-ndjson; charset=utf-8')
  @Header('Content-Disposition', 'attachment; filename="security-log.jsonl"')
  @ApiOperation({ summary: 'The security log as JSON Lines, the newest first; as many as one answer holds' })
  @ApiOkResponse({ schema: { type: 'string' } })
  async lines(@Query() { before }: BeforeDto): Promise<string> {
    const entries = await this.log.page(before ?? null);
    return entries.map((entry) => `${JSON.stringify(entry)}\n`).join('');
  }

  private note(what: Logged, by: Actor, request: Request, detail: string): Promise<void> {
    return this.log.write({ what, who: by.name, from: addressOf(request), detail });
  }
}
