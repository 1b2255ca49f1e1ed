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
import { ProjectId } from '../projects/projects.controller.js';
import { LiveDto, PlaceDto, PresentDto } from './live.dto.js';
import { LiveService } from './live.service.js';

@ApiTags('live')
// Windows come as data of an event, which the description has no place for.
@ApiExtraModels(PresentDto)
@Controller('api/projects/:id/live')
export class LiveController {
  constructor(@Inject(LiveService) private readonly live: LiveService) {}

  @Sse()
  @ApiOperation({ summary: 'What happens to the project, as server-sent events: version, presence, builds' })
  @ApiOkResponse({ description: 'text/event-stream' })
  stream(@ProjectId() id: string, @Query() dto: LiveDto): Promise<Observable<MessageEvent>> {
    return this.live.stream(id, dto);
  }

  @Post(':client')
  @HttpCode(204)
  @ApiOperation({ summary: 'Say where a window is now' })
  @ApiNoContentResponse()
  move(
    @ProjectId() id: string,
    @Param('client', ParseUUIDPipe) client: string,
    @Body() dto: PlaceDto,
  ): Promise<void> {
    return this.live.move(id, client, dto);
  }
}
