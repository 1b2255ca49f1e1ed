import { Controller, Get, HttpStatus, Inject, Redirect, Req, Res } from '@nestjs/common';
import { ApiFoundResponse, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { People } from './people.js';
import { Needs } from './roles.js';
import { addressOf, SecurityLog } from './security.log.js';
import { Sessions } from './sessions.js';
import { SingleSignOn } from './single.sign.on.js';

/** Where a browser lands that could not be signed in; the page there says so. */
const FAILED = '/#not-signed-in';

/** Signing in by a provider of OpenID Connect. */
@ApiTags('session')
@Controller('api/sso')
export class SingleSignOnController {
  constructor(
    @Inject(SingleSignOn) private readonly sso: SingleSignOn,
    @Inject(People) private readonly people: People,
    @Inject(Sessions) private readonly sessions: Sessions,
    @Inject(SecurityLog) private readonly log: SecurityLog,
  ) {}

  @Needs('anybody', { only: 'team' })
  @Get()
  @Redirect()
  @ApiOperation({ summary: 'Go to the provider of single sign-on' })
  @ApiFoundResponse({ description: 'To the provider' })
  async begin(@Res({ passthrough: true }) response: Response): Promise<{ url: string; statusCode: number }> {
    return { url: await this.sso.begin(response), statusCode: HttpStatus.FOUND };
  }

  @Needs('anybody', { only: 'team' })
  @Get('back')
  @Redirect()
  @ApiOperation({ summary: 'Come back from the provider of single sign-on; sets the cookie of the session' })
  @ApiFoundResponse({ description: 'To the list of projects, or to a page that says what failed' })
  async back(
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<{ url: string; statusCode: number }> {
    const from = addressOf(request);
    try {
      const { id, name } = await this.people.vouchedFor(await this.sso.end(request, response));
      await this.sessions.begin(id, request, response);
      await this.log.write({ what: 'signed-in', who: name, from, detail: 'by single sign-on' });
      return { url: '/', statusCode: HttpStatus.FOUND };
    } catch (error) {
      if ((error as { type?: string }).type !== 'not-vouched') throw error;
      await this.log.write({ what: 'sign-in-refused', who: '', from, detail: (error as Error).message });
      return { url: FAILED, statusCode: HttpStatus.FOUND };
    }
  }
}
