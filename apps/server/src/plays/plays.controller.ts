import { pipeline, type Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';
import {
  Controller,
  Delete,
  Get,
  Header,
  HttpCode,
  Inject,
  Param,
  ParseUUIDPipe,
  Post,
  Query,
  Req,
  Sse,
  type MessageEvent,
  type StreamableFile,
} from '@nestjs/common';
import {
  ApiBearerAuth,
  ApiBody,
  ApiCreatedResponse,
  ApiNoContentResponse,
  ApiOkResponse,
  ApiOperation,
  ApiTags,
} from '@nestjs/swagger';
import type { Request } from 'express';
import { takeUntil, type Observable } from 'rxjs';
import { ProblemError } from '../http/problem.js';
import { ProjectId } from '../http/project-id.js';
import { PlayDto, PlayQueryDto, TokenDto, TokenStateDto } from './play.dto.js';
import { PlaysService } from './plays.service.js';
import { By, type Actor } from '../team/actor.js';
import { Closing } from '../http/closing.js';
import { Needs } from '../team/roles.js';

const PlayId = (): ParameterDecorator => Param('play', new ParseUUIDPipe());

@ApiTags('plays')
@Controller('api/projects/:id/plays')
export class PlaysController {
  constructor(
    @Inject(PlaysService) private readonly plays: PlaysService,
    @Inject(Closing) private readonly closing: Closing,
  ) {}

  @Needs('reader')
  @Get()
  @ApiOperation({ summary: 'What running games have sent, the newest first' })
  @ApiOkResponse({ type: [PlayDto] })
  list(@ProjectId() id: string): Promise<PlayDto[]> {
    return this.plays.list(id);
  }

  @Needs('designer', { scope: 'plays' })
  @Post()
  @ApiBearerAuth()
  @ApiOperation({ summary: 'Send what a running game has written; it is judged while it comes in' })
  @ApiBody({
    description: 'JSON Lines: records, or CloudEvents 1.0 whose data is one',
    schema: { type: 'string' },
  })
  @ApiCreatedResponse({ type: PlayDto })
  take(
    @ProjectId() id: string,
    @Query() query: PlayQueryDto,
    @Req() request: Request,
    @By() by: Actor | null,
  ): Promise<PlayDto> {
    const [, token = null] = /^Bearer (\S+)$/i.exec(request.headers.authorization ?? '') ?? [];
    // On a team's server the guard has looked at the token.
    return this.plays.take(id, by ? 'checked' : { token }, query, unpacked(request));
  }

  @Needs('reader')
  @Sse('live')
  @ApiOperation({ summary: 'What is sent now, as server-sent events: lines' })
  @ApiOkResponse({ description: 'text/event-stream' })
  live(@ProjectId() id: string): Observable<MessageEvent> {
    return this.plays.watched(id).pipe(takeUntil(this.closing.begun));
  }

  @Needs('reader', { only: 'alone' })
  @Get('token')
  @ApiOperation({ summary: 'Whether there is a token, and since when' })
  @ApiOkResponse({ type: TokenStateDto })
  tokenState(@ProjectId() id: string): Promise<TokenStateDto> {
    return this.plays.tokenState(id);
  }

  @Needs('lead', { only: 'alone' })
  @Post('token')
  @ApiOperation({ summary: 'A new token to send plays with; the one before holds no longer' })
  @ApiCreatedResponse({ type: TokenDto })
  async newToken(@ProjectId() id: string): Promise<TokenDto> {
    return { token: await this.plays.newToken(id) };
  }

  @Needs('reader')
  @Get('together')
  @Header('Content-Type', 'application/json; charset=utf-8')
  @ApiOperation({ summary: 'What all plays show together that are judged by the same wiring as the newest' })
  @ApiOkResponse({ description: 'How many plays, and oquel.plays/1', schema: { type: 'object' } })
  together(@ProjectId() id: string): Promise<StreamableFile> {
    return this.plays.together(id);
  }

  @Needs('reader')
  @Get(':play')
  @Header('Content-Type', 'application/json; charset=utf-8')
  @ApiOperation({ summary: 'What a play shows' })
  @ApiOkResponse({ description: 'oquel.plays/1', schema: { type: 'object' } })
  report(@ProjectId() id: string, @PlayId() play: string): Promise<string> {
    return this.plays.report(id, play);
  }

  @Needs('designer')
  @Delete(':play')
  @HttpCode(204)
  @ApiOperation({ summary: 'Remove a play' })
  @ApiNoContentResponse()
  remove(@ProjectId() id: string, @PlayId() play: string): Promise<void> {
    return this.plays.remove(id, play);
  }
}

/** @throws ProblemError 415 */
function unpacked(request: Request): Readable {
  const encoding = request.headers['content-encoding'] ?? 'identity';
  if (encoding === 'identity') return request;
  if (encoding === 'gzip') return pipeline(request, createGunzip(), () => undefined);
  const detail = `plays are sent as they are or as gzip, not as ${encoding.slice(0, 50)}`;
  throw new ProblemError(415, 'bad-encoding', 'Unknown encoding', detail);
}
