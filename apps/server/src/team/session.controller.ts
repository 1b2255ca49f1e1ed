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
  Query,
  Req,
  Res,
} from '@nestjs/common';
import {
  ApiCreatedResponse,
  ApiNoContentResponse,
  ApiOkResponse,
  ApiOperation,
  ApiTags,
} from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { CONFIG, type Config } from '../config.js';
import { By, type Actor } from './actor.js';
import { People } from './people.js';
import { Needs } from './roles.js';
import { addressOf, SecurityLog } from './security.log.js';
import {
  JoinDto,
  OfferDto,
  OwnAccountDto,
  OwnSessionDto,
  PasswordDto,
  SecretDto,
  SessionDto,
  SignInDto,
  WhichProjectDto,
} from './session.dto.js';
import { Sessions } from './sessions.js';
import { SingleSignOn } from './single.sign.on.js';
import { noSuch, signInFirst } from './team.problems.js';
import { Tries } from './tries.js';

/** Signing in and out, joining by an invitation, and one's own account. */
@ApiTags('session')
@Controller('api')
export class SessionController {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    @Inject(Sessions) private readonly sessions: Sessions,
    @Inject(People) private readonly people: People,
    @Inject(SingleSignOn) private readonly sso: SingleSignOn,
    @Inject(Tries) private readonly tries: Tries,
    @Inject(SecurityLog) private readonly log: SecurityLog,
  ) {}

  @Needs('anybody')
  @Get('session')
  @ApiOperation({ summary: 'Who has signed in here, and their role in a project' })
  @ApiOkResponse({ type: SessionDto })
  async session(@Req() request: Request, @Query() { project }: WhichProjectDto): Promise<SessionDto> {
    if (!this.config.team) return { team: false, account: null, sso: null, role: null };
    const actor = await this.sessions.actor(request, project ?? null);
    return { team: true, account: actor && own(actor), sso: this.sso.name, role: actor?.role ?? null };
  }

  @Needs('anybody', { only: 'team' })
  @Post('session')
  @ApiOperation({ summary: 'Sign in; the answer sets the cookie of the session' })
  @ApiCreatedResponse({ type: OwnAccountDto })
  async signIn(
    @Body() { login, password }: SignInDto,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<OwnAccountDto> {
    const from = addressOf(request);
    const tried = login.normalize('NFKC').trim().toLowerCase();
    await this.tries.begin(tried, from);
    try {
      const { id, name } = await this.people.signIn(login, password);
      await this.tries.passed(tried, from);
      return await this.begin(id, name, request, response);
    } catch (error) {
      if (isWrongPassword(error)) await this.log.write({ what: 'sign-in-refused', who: tried, from });
      else await this.tries.unmade(tried, from);
      throw error;
    }
  }

  @Needs('account', { only: 'team' })
  @Delete('session')
  @HttpCode(204)
  @ApiOperation({ summary: 'Sign out: the session ends, and its windows with it' })
  @ApiNoContentResponse()
  async signOut(
    @By() by: Actor,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    await this.sessions.end(by.id, { only: by.session!.id });
    this.sessions.forget(response);
    await this.log.write({ what: 'signed-out', who: by.name, from: addressOf(request) });
  }

  @Needs('anybody', { only: 'team' })
  @Post('join/offer')
  @HttpCode(200)
  @ApiOperation({ summary: 'What an invitation offers' })
  @ApiOkResponse({ type: OfferDto })
  async offer(@Body() { secret }: SecretDto): Promise<OfferDto> {
    const { isAdministrator, projectName, role, personName, madeBy } = await this.people.offered(secret);
    return { isAdministrator, projectName, role, personName, madeBy };
  }

  @Needs('anybody', { only: 'team' })
  @Post('join')
  @ApiOperation({ summary: 'Accept an invitation: makes the account, or sets its password, and signs in' })
  @ApiCreatedResponse({ type: OwnAccountDto })
  async join(
    @Body() { secret, login, name, password }: JoinDto,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<OwnAccountDto> {
    const joined = await this.people.join(secret, login, name, password);
    await this.log.write({ what: 'joined', who: joined.name, from: addressOf(request) });
    return this.begin(joined.id, joined.name, request, response);
  }

  @Needs('account', { only: 'team' })
  @Post('account/password')
  @HttpCode(204)
  @ApiOperation({ summary: 'Change one’s password; all other sessions end' })
  @ApiNoContentResponse()
  async password(
    @By() by: Actor,
    @Body() { old, password }: PasswordDto,
    @Req() request: Request,
  ): Promise<void> {
    const from = addressOf(request);
    await this.tries.begin(by.id, from);
    try {
      await this.people.changePassword(by.id, old, password, by.session!.id);
      await this.tries.passed(by.id, from);
    } catch (error) {
      if (!isWrongPassword(error)) await this.tries.unmade(by.id, from);
      throw error;
    }
    await this.log.write({ what: 'password-changed', who: by.name, from });
  }

  @Needs('account', { only: 'team' })
  @Get('account/sessions')
  @ApiOperation({ summary: 'Where one has signed in' })
  @ApiOkResponse({ type: [OwnSessionDto] })
  async list(@By() by: Actor): Promise<OwnSessionDto[]> {
    const all = await this.sessions.of(by.id);
    return all.map((s) => ({ ...s, isThis: s.id === by.session?.id }));
  }

  @Needs('account', { only: 'team' })
  @Delete('account/sessions/:session')
  @HttpCode(204)
  @ApiOperation({ summary: 'Sign out somewhere else' })
  @ApiNoContentResponse()
  async end(
    @By() by: Actor,
    @Param('session', ParseUUIDPipe) session: string,
    @Req() request: Request,
  ): Promise<void> {
    if ((await this.sessions.end(by.id, { only: session })) === 0) throw noSuch('session');
    await this.log.write({ what: 'session-ended', who: by.name, from: addressOf(request) });
  }

  private async begin(
    id: string,
    name: string,
    request: Request,
    response: Response,
  ): Promise<OwnAccountDto> {
    await this.sessions.begin(id, request, response);
    await this.log.write({ what: 'signed-in', who: name, from: addressOf(request) });
    const person = (await this.people.all()).find((p) => p.id === id);
    if (!person) throw signInFirst();
    return { id, name, isAdministrator: person.isAdministrator };
  }
}

function own({ id, name, isAdministrator }: Actor): OwnAccountDto {
  return { id, name, isAdministrator };
}

function isWrongPassword(error: unknown): boolean {
  return (error as { type?: string }).type === 'wrong-password';
}
