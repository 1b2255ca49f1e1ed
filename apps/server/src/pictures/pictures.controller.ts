import { Controller, Get, Inject, Param, Post, Req, Res, StreamableFile } from '@nestjs/common';
import { ApiBody, ApiCreatedResponse, ApiOkResponse, ApiOperation, ApiTags } from '@nestjs/swagger';
import { pictureType } from '@oquel/core';
import type { Request, Response } from 'express';
import { badRequest } from '../http/problem.js';
import { ProjectId } from '../http/project-id.js';
import { PictureDto } from './picture.dto.js';
import { PicturesService } from './pictures.service.js';
import { Needs } from '../team/roles.js';

@ApiTags('pictures')
@Controller('api/projects/:id/pictures')
export class PicturesController {
  constructor(@Inject(PicturesService) private readonly pictures: PicturesService) {}

  @Needs('designer')
  @Post()
  @ApiOperation({ summary: 'Store a picture that can lie under a plan: PNG, JPEG, WebP or SVG' })
  @ApiBody({ description: 'The bytes of the picture', schema: { type: 'string', format: 'binary' } })
  @ApiCreatedResponse({ type: PictureDto })
  async store(@ProjectId() id: string, @Req() request: Request): Promise<PictureDto> {
    const { body } = request as { body: unknown };
    if (!Buffer.isBuffer(body)) throw badRequest('the body must be a picture');
    return { name: await this.pictures.store(id, body) };
  }

  @Needs('reader')
  @Get(':name')
  @ApiOperation({ summary: 'A picture' })
  @ApiOkResponse({ schema: { type: 'string', format: 'binary' } })
  async read(
    @ProjectId() id: string,
    @Param('name') name: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const bytes = await this.pictures.read(id, name);
    response.set({
      'Content-Type': pictureType(name),
      // One name always means the same bytes.
      'Cache-Control': 'private, max-age=31536000, immutable',
      // Opened by itself, a picture with scripts in it runs none and asks for nothing.
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
    });
    return new StreamableFile(bytes);
  }
}
