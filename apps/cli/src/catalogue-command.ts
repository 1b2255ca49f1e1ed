import { catalogueCsv, catalogueHtml, catalogueJson, indexProject } from '@oquel/core';
import { Command, Option } from 'commander';
import { PROJECT_INPUT, readProjectFrom } from './input.js';
import type { Streams } from './streams.js';

const PRINTED = { html: catalogueHtml, json: catalogueJson, csv: catalogueCsv };

/** `oquel catalogue`: all that is declared, with who uses it, for people and programs that have no Oquel. */
export function catalogueCommand(streams: Streams): Command {
  return new Command('catalogue')
    .description('print all events, actions, channels and what else is declared, with who uses them')
    .argument('<file>', PROJECT_INPUT)
    .addOption(
      new Option('--format <format>', 'how to print; html is one page')
        .choices(Object.keys(PRINTED))
        .default('html'),
    )
    .action((file: string, { format }: { format: keyof typeof PRINTED }) => {
      const { project } = readProjectFrom(file, streams);
      streams.out(PRINTED[format](indexProject(project)));
    });
}
