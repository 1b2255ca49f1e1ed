import { manifestJsonSchema, projectJsonSchema, wiringJsonSchema } from '@oquel/core';
import { Command } from 'commander';
import { UsageError } from './paths.js';
import type { Streams } from './streams.js';

/** `oquel schema`: the JSON Schema of the project format, of manifests, or of compiled wiring. */
export function schemaCommand(streams: Streams): Command {
  return new Command('schema')
    .description('print the JSON Schema (draft 2020-12) of the project format')
    .option('--declarations', 'of the manifest of a game, oquel.declarations/1, instead')
    .option('--wiring', 'of compiled wiring, oquel.wiring/1, instead')
    .action(({ declarations, wiring }: { declarations?: boolean; wiring?: boolean }) => {
      if (declarations && wiring) throw new UsageError('give --declarations or --wiring, not both');
      const schema = wiring ? wiringJsonSchema() : declarations ? manifestJsonSchema() : projectJsonSchema();
      streams.out(`${JSON.stringify(schema, null, 2)}\n`);
    });
}
