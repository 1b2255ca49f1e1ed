import { compareProjects, differenceText } from '@oquel/core';
import { Command, Option } from 'commander';
import { readProjectFrom } from './input.js';
import { UsageError } from './paths.js';
import { isStandardInput } from './standard-input.js';
import type { Streams } from './streams.js';

/** `oquel compare FROM TO`: what has changed, as sentences. Exit code 0 where nothing has, 1 where something has. */
export function compareCommand(streams: Streams, exit: (code: number) => void): Command {
  return new Command('compare')
    .description('say what has changed from one state of a project to another, scene by scene')
    .argument('<from>', 'the earlier project document or folder; - for a document on standard input')
    .argument('<to>', 'the later one, likewise')
    .addOption(new Option('--format <format>', 'how it is said').choices(['text', 'json']).default('text'))
    .action((from: string, to: string, { format }: { format: 'text' | 'json' }) => {
      if (isStandardInput(from) && isStandardInput(to))
        throw new UsageError('only one of the two can come from standard input');
      const difference = compareProjects(
        readProjectFrom(from, streams).project,
        readProjectFrom(to, streams).project,
      );
      const same = difference.groups.length === 0;
      if (format === 'json') streams.out(`${JSON.stringify(difference, null, 2)}\n`);
      else streams.out(same ? 'Nothing differs.\n' : differenceText(difference));
      exit(same ? 0 : 1);
    });
}
