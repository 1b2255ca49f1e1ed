import 'reflect-metadata';
import { constants, setPriority } from 'node:os';
import { workerData } from 'piscina';
import { AuditsService } from '../audits/audits.service.js';
import { BuildStore } from '../builds/build.store.js';
import { BuildsService } from '../builds/builds.service.js';
import { Database } from '../database/database.js';
import type { BuildImportDto, FreezeDto } from '../builds/build.dto.js';
import { editOf, type StepDto, type TakeBackDto } from '../edits/edit.dto.js';
import { EditsService } from '../edits/edits.service.js';
import type { DeclarationsDto } from '../exchange/declarations.dto.js';
import { mergeDeclarations } from '../exchange/declarations.js';
import type { ReplaceDto } from '../exchange/replace.dto.js';
import { replaceProject } from '../exchange/replace.js';
import { jsonBody, textBody } from '../http/bodies.js';
import { problemOf } from '../http/problem.filter.js';
import { LIMITS } from '../limits.js';
import { playsTogether } from '../plays/together.js';
import { EditLog } from '../projects/edit.log.js';
import { ProjectImport } from '../projects/project.import.js';
import { ProjectStore } from '../projects/project.store.js';
import { ProjectsService } from '../projects/projects.service.js';
import { signed } from '../team/actor.js';
import type { HeavyAnswer, HeavyTask } from '../heavy/tasks.js';

// On Linux this is the priority of the thread: where all processors are taken, small requests are answered first.
if (process.platform === 'linux') setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

const { databaseUrl } = workerData as { databaseUrl: string };
const db = new Database(databaseUrl, () => undefined, {
  connections: LIMITS.database.heavyConnections,
  statement: LIMITS.database.heavyStatement,
});
const log = new EditLog();
const store = new ProjectStore();
const edits = new EditsService(db, store, log);
const projects = new ProjectsService(db, store, new ProjectImport(), log);
const audits = new AuditsService(db, store);
const builds = new BuildsService(db, store, new BuildStore(), edits);

/** Runs one task in a worker thread, with the same services as the server itself and a database connection of its own. */
export default async function run(task: HeavyTask): Promise<HeavyAnswer> {
  try {
    const { text, version = null, name = null } = await perform(task);
    return { bytes: new TextEncoder().encode(text), version, name };
  } catch (error) {
    return { problem: problemOf(error).body() };
  }
}

async function perform(task: HeavyTask): Promise<{ text: string; version?: number; name?: string }> {
  switch (task.task) {
    case 'import':
      return said(await projects.import(textBody(task.body), task.key, task.owner));
    case 'open':
      return said(await projects.open(task.id, task.author));
    case 'document': {
      const project = await projects.document(task.id);
      return { ...said(project), name: project.name };
    }
    case 'edit': {
      const { head, changes } = editOf(jsonBody(task.body));
      return said(await edits.edit(task.id, signed(head, task.by), changes));
    }
    case 'step':
      return said(await edits.step(task.id, task.way, task.dto as StepDto));
    case 'takeBack':
      return said(await edits.takeBack(task.id, task.dto as TakeBackDto));
    case 'replace':
      return said(await replaceProject(edits, task.id, task.dto as ReplaceDto, textBody(task.body)));
    case 'declare':
      return said(await mergeDeclarations(edits, task.id, task.dto as DeclarationsDto, textBody(task.body)));
    case 'restore':
      return said(await builds.restore(task.id, task.build, task.dto as StepDto));
    case 'audit':
      return audits.audit(task.id, task.today);
    case 'gate':
      return said(await audits.gate(task.id, task.today));
    case 'plays':
      return said(await playsTogether(db.k, task.id));
    case 'freeze':
      return said(await builds.freeze(task.id, task.dto as FreezeDto));
    case 'importBuild':
      return said(await builds.import(task.id, textBody(task.body), task.dto as BuildImportDto));
  }
}
function said(value: unknown): { text: string } {
  return { text: JSON.stringify(value) };
}
