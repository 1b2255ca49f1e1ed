import { projectJsonSchema } from '@oquel/core';
import { Command } from 'commander';
import type { Streams } from './streams.js';

/** `oquel schema`: the JSON Schema of the project format. */
export function schemaCommand(streams: Streams): Command {
  return new Command('schema')
    .description('print the JSON Schema (draft 2020-12) of the project format')
    .action(() => streams.out(`${JSON.stringify(projectJsonSchema(), null, 2)}\n`));
}
