import {
  asyncApi,
  expand,
  indexProject,
  namesJsonSchema,
  projectHash,
  typescriptNames,
  type Project,
} from '@oquel/core';
import { Command, Option } from 'commander';
import { PROJECT_INPUT, readProjectFrom } from './input.js';
import { sha256 } from './sha256.js';
import type { Streams } from './streams.js';
import { orExplain } from './too-large.js';

type To = 'typescript' | 'json-schema' | 'asyncapi';

/** `oquel names`: the names of a project as types for the code of the game. */
export function namesCommand(streams: Streams): Command {
  return new Command('names')
    .description("print a project's events, actions, channels and keys as types")
    .argument('<file>', PROJECT_INPUT)
    .addOption(
      new Option('--to <language>', 'what to print')
        .choices(['typescript', 'json-schema', 'asyncapi'])
        .makeOptionMandatory(),
    )
    .action((file: string, { to }: { to: To }) => {
      const { project } = readProjectFrom(file, streams);
      streams.out(orExplain(() => namesOf(project, to), file));
    });
}

function namesOf(project: Project, to: To): string {
  const hash = projectHash(project, sha256);
  if (to === 'typescript') return typescriptNames(expand(indexProject(project)), hash);
  const schema = to === 'json-schema' ? namesJsonSchema(project, hash) : asyncApi(project, hash);
  return `${JSON.stringify(schema, null, 2)}\n`;
}
