import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Inject,
  Param,
  ParseUUIDPipe,
  Post,
  Put,
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
import { ProjectId } from '../http/project-id.js';
import { By, type Actor } from './actor.js';
import { Members } from './members.js';
import {
  InvitationDto,
  InvitedDto,
  InviteMemberDto,
  MadeTokenDto,
  MemberDto,
  NewTokenDto,
  ProjectTokenDto,
  RoleDto,
} from './people.dto.js';
import { People } from './people.js';
import { Needs } from './roles.js';
import { addressOf, SecurityLog, type Logged } from './security.log.js';
import { Tokens } from './tokens.js';

/** Who may do what in a project, and the tokens with which programs come. */
@ApiTags('members')
@Controller('api/projects/:id')
export class MembersController {
  constructor(
    @Inject(Members) private readonly members: Members,
    @Inject(People) private readonly people: People,
    @Inject(Tokens) private readonly tokens: Tokens,
    @Inject(SecurityLog) private readonly log: SecurityLog,
  ) {}

  @Needs('reader', { only: 'team' })
  @Get('members')
  @ApiOperation({ summary: 'Who has which role' })
  @ApiOkResponse({ type: [MemberDto] })
  list(@ProjectId() id: string): Promise<MemberDto[]> {
    return this.members.of(id);
  }

  @Needs('lead', { only: 'team' })
  @Put('members/:person')
  @HttpCode(204)
  @ApiOperation({ summary: 'Give somebody a role' })
  @ApiNoContentResponse()
  async give(
    @ProjectId() id: string,
    @Param('person', ParseUUIDPipe) person: string,
    @Body() { role }: RoleDto,
    @By() by: Actor,
    @Req() request: Request,
  ): Promise<void> {
    const { name, was } = await this.members.set(id, person, role);
    await this.note('role-changed', id, by, request, `${name}: ${was ?? 'no role'}, now ${role}`);
  }

  @Needs('lead', { only: 'team' })
  @Delete('members/:person')
  @HttpCode(204)
  @ApiOperation({ summary: 'Take somebody’s role away: their windows of the project close' })
  @ApiNoContentResponse()
  async take(
    @ProjectId() id: string,
    @Param('person', ParseUUIDPipe) person: string,
    @By() by: Actor,
    @Req() request: Request,
  ): Promise<void> {
    const { name, was } = await this.members.set(id, person, null);
    await this.note('role-changed', id, by, request, `${name}: ${was ?? 'no role'}, now none`);
  }

  @Needs('lead', { only: 'team' })
  @Get('invitations')
  @ApiOperation({ summary: 'Invitations to the project that are open' })
  @ApiOkResponse({ type: [InvitationDto] })
  invitations(@ProjectId() id: string): Promise<InvitationDto[]> {
    return this.people.invitations(id);
  }

  @Needs('lead', { only: 'team' })
  @Post('invitations')
  @ApiOperation({ summary: 'Invite somebody who has no account yet' })
  @ApiCreatedResponse({ type: InvitedDto })
  async invite(
    @ProjectId() id: string,
    @Body() { note, role }: InviteMemberDto,
    @By() by: Actor,
    @Req() request: Request,
  ): Promise<InvitedDto> {
    const made = await this.people.invite({ project: id, role }, note, by.name);
    await this.note('invited', id, by, request, `${note}, as ${role}`);
    return made;
  }

  @Needs('lead', { only: 'team' })
  @Delete('invitations/:invitation')
  @HttpCode(204)
  @ApiOperation({ summary: 'Withdraw an invitation to the project' })
  @ApiNoContentResponse()
  async withdraw(
    @ProjectId() id: string,
    @Param('invitation', ParseUUIDPipe) invitation: string,
    @By() by: Actor,
    @Req() request: Request,
  ): Promise<void> {
    await this.note('invitation-withdrawn', id, by, request, await this.people.withdraw(invitation, id));
  }

  @Needs('lead', { only: 'team' })
  @Get('tokens')
  @ApiOperation({ summary: 'The tokens of the project, without their secrets' })
  @ApiOkResponse({ type: [ProjectTokenDto] })
  tokensOf(@ProjectId() id: string): Promise<ProjectTokenDto[]> {
    return this.tokens.of(id);
  }

  @Needs('lead', { only: 'team' })
  @Post('tokens')
  @ApiOperation({ summary: 'A new token for a build server or a game; it is shown once' })
  @ApiCreatedResponse({ type: MadeTokenDto })
  async makeToken(
    @ProjectId() id: string,
    @Body() { name, scopes, days }: NewTokenDto,
    @By() by: Actor,
    @Req() request: Request,
  ): Promise<MadeTokenDto> {
    const made = await this.tokens.make(id, name, scopes, days, by);
    await this.note('token-made', id, by, request, `${name}: ${scopes.join(', ')}, for ${days} days`);
    return made;
  }

  @Needs('lead', { only: 'team' })
  @Delete('tokens/:token')
  @HttpCode(204)
  @ApiOperation({ summary: 'Revoke a token' })
  @ApiNoContentResponse()
  async revoke(
    @ProjectId() id: string,
    @Param('token', ParseUUIDPipe) token: string,
    @By() by: Actor,
    @Req() request: Request,
  ): Promise<void> {
    await this.note('token-revoked', id, by, request, await this.tokens.revoke(id, token));
  }

  private note(what: Logged, project: string, by: Actor, request: Request, detail: string): Promise<void> {
    return this.log.write({ what, who: by.name, from: addressOf(request), project, detail });
  }
}
