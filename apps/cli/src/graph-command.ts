import { buildGraph, expand, graphCsv, graphMl, indexProject } from '@oquel/core';
import { Command, Option } from 'commander';
import { orExplain } from './too-large.js';
import { PROJECT_INPUT, readProjectFrom } from './input.js';
import type { Streams } from './streams.js';

/** `oquel graph`: the expanded binding graph for other programs. */
export function graphCommand(streams: Streams): Command {
  return new Command('graph')
    .description('print the expanded binding graph')
    .argument('<file>', PROJECT_INPUT)
    .addOption(new Option('--format <format>', 'how to print').choices(['graphml', 'csv']).default('graphml'))
    .action((file: string, { format }: { format: 'graphml' | 'csv' }) => {
      const { project } = readProjectFrom(file, streams);
      const g = orExplain(() => buildGraph(expand(indexProject(project))), file);
      streams.out(format === 'csv' ? graphCsv(g) : graphMl(g));
    });
}
