import type { INestApplication } from '@nestjs/common';
import { DocumentBuilder, SwaggerModule, type OpenAPIObject } from '@nestjs/swagger';

/** The description of the API, made from its controllers and DTOs. */
export function describeApi(app: INestApplication): OpenAPIObject {
  const config = new DocumentBuilder()
    .setTitle('Oquel')
    .setDescription('Projects, edits and audits. Errors are application/problem+json (RFC 9457).')
    .setVersion('1')
    .build();
  return SwaggerModule.createDocument(app, config);
}
