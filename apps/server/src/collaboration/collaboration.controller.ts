import {
  Body,
  Controller,
  HttpCode,
  Inject,
  Param,
  ParseUUIDPipe,
  Post,
  Query,
  Sse,
  type MessageEvent,
} from '@nestjs/common';
import { ApiExtraModels, ApiNoContentResponse, ApiOkResponse, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Observable } from 'rxjs';
import { CollaborationDto, PresenceEventDto, VersionEventDto, WindowsDto } from './collaboration.dto.js';
import { CollaborationService } from './collaboration.service.js';
import { By, type Actor } from '../team/actor.js';
import { Needs } from '../team/roles.js';

@ApiTags('live')
// They come as data of events, which the description has no place for.
@ApiExtraModels(VersionEventDto, PresenceEventDto)
@Controller('api/live')
export class CollaborationController {
  constructor(@Inject(CollaborationService) private readonly live: CollaborationService) {}

  @Needs('account')
  @Sse()
  @ApiOperation({
    summary:
      'Events of several projects, as server-sent events: version, presence, builds, plays; gone for one that does not exist',
  })
  @ApiOkResponse({ description: 'text/event-stream' })
  stream(@Query() dto: CollaborationDto, @By() by: Actor | null): Promise<Observable<MessageEvent>> {
    return this.live.stream(dto, by);
  }

  @Needs('account')
  @Post(':stream')
  @HttpCode(204)
  @ApiOperation({ summary: 'Say for which windows a stream speaks, and where they are' })
  @ApiNoContentResponse()
  windows(
    @Param('stream', ParseUUIDPipe) stream: string,
    @Body() dto: WindowsDto,
    @By() by: Actor | null,
  ): Promise<void> {
    return this.live.windows(stream, dto.windows, by);
  }
}
