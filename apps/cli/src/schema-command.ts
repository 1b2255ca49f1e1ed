import { manifestJsonSchema, projectJsonSchema } from '@oquel/core';
import { Command } from 'commander';
import type { Streams } from './streams.js';

/** `oquel schema`: the JSON Schema of the project format, or of manifests. */
export function schemaCommand(streams: Streams): Command {
  return new Command('schema')
    .description('print the JSON Schema (draft 2020-12) of the project format')
    .option('--declarations', 'of the manifest of a game, oquel.declarations/1, instead')
    .action(({ declarations }: { declarations?: boolean }) => {
      const schema = declarations ? manifestJsonSchema() : projectJsonSchema();
      streams.out(`${JSON.stringify(schema, null, 2)}\n`);
    });
}
