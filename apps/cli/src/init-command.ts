import { existsSync } from 'node:fs';
import { basename, resolve } from 'node:path';
import { BrokenDocument, problemText, readProject, toFolder } from '@oquel/core';
import { Command } from 'commander';
import { kindOf, requirePath, UsageError } from './paths.js';
import { writeFile, writeFolder } from './project-folder.js';
import type { Streams } from './streams.js';

interface InitFlags {
  name?: string;
  scene: string;
}

/** `oquel init`: a new project with an empty scene, as a document or a folder; what is there already is never touched. */
export function initCommand(streams: Streams): Command {
  return new Command('init')
    .description(
      'begin a project: a document (TO ends in .json) or a folder (no ending) with one empty scene',
    )
    .argument('<to>', 'the document or folder to make; it must not be there yet')
    .option('--name <name>', 'name of the project; that of the file or folder if not given')
    .option('--scene <name>', 'name of its first scene', 'main')
    .action((to: string, { name, scene }: InitFlags) => {
      requirePath(to, 'the project');
      if (existsSync(to)) throw new UsageError(`${to} is there already; nothing was written`);
      const kind = kindOf(to);
      const { project } = checked(name ?? basename(resolve(to), '.json'), scene);
      if (kind === 'document') writeFile(to, `${JSON.stringify(project, null, 2)}\n`);
      else writeFolder(to, toFolder(project));
      streams.out(
        `${to} has the project "${project.name}" with the scene ${scene}.\n` +
          'Next: oquel merge to bring in what your game declares, or import it into Oquel.\n',
      );
    });
}

function checked(name: string, scene: string): ReturnType<typeof readProject> {
  try {
    return readProject({ format: 'oquel.project/1', name, assets: [{ id: scene, kind: 'scene' }] });
  } catch (error) {
    if (!(error instanceof BrokenDocument)) throw error;
    throw new UsageError(error.problems.map((p) => problemText(p)).join('\n'));
  }
}
