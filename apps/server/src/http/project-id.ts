import { Param, ParseUUIDPipe } from '@nestjs/common';
import { noSuchProject } from './problem.js';

/** An id that is no UUID names no project. */
export const ProjectId = (): ParameterDecorator =>
  Param('id', new ParseUUIDPipe({ exceptionFactory: () => noSuchProject() }));
