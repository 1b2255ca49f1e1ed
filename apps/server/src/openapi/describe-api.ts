import type { INestApplication } from '@nestjs/common';
import { DocumentBuilder, SwaggerModule, type OpenAPIObject } from '@nestjs/swagger';
import { describeEvents } from './events.js';
import { describeFormats } from './formats.js';
import { eachOperation } from './operations.js';
import { describeProblems } from './problems.js';
import { describeAccess } from './access.js';
import { withNullTypes } from './null-types.js';

/**
 * The description of the API (OpenAPI 3.1): made from its controllers and DTOs, and completed by the formats of documents and
 * changes, the events of streams, every problem, and who may call what.
 */
export function describeApi(app: INestApplication): OpenAPIObject {
  const config = new DocumentBuilder()
    .setTitle('Oquel')
    .setDescription(
      'Projects, edits, audits, builds and plays. Errors are application/problem+json (RFC 9457). `x-oquel-needs` says who may call an operation on a team’s server.',
    )
    .setVersion('1')
    .setOpenAPIVersion('3.1.0')
    .build();
  const api = SwaggerModule.createDocument(app, config);
  api.components ??= {};
  api.components.schemas ??= {};
  describeFormats(api);
  describeEvents(api);
  for (const operation of eachOperation(api)) {
    describeAccess(operation);
    describeProblems(operation);
  }
  describeAccess.schemes(api);
  describeProblems.schema(api);
  return withNullTypes(api);
}
