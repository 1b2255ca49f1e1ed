import { Inject, Injectable, type OnModuleDestroy } from '@nestjs/common';
import { Piscina } from 'piscina';
import { Database } from '../database/database.js';
import { ProblemError } from '../http/problem.js';
import type { AuditAnswer } from './audit.worker.js';
import { ProjectStore } from '../projects/project.store.js';

/** Audits of stored projects, off the event loop. */
@Injectable()
export class AuditsService implements OnModuleDestroy {
  private readonly workers = new Piscina({
    filename: new URL('./audit.worker.js', import.meta.url).href,
    maxThreads: 2,
    minThreads: 0,
    idleTimeout: 30_000,
  });

  constructor(
    @Inject(Database) private readonly db: Database,
    @Inject(ProjectStore) private readonly store: ProjectStore,
  ) {}

  /** The audit as JSON text, of the project as it is stored now. @throws ProblemError */
  async audit(id: string, today?: string): Promise<{ version: number; text: string }> {
    const { project, version } = await this.store.open(this.db.k, id);
    return { version, text: await this.auditDocument(JSON.stringify(project), today) };
  }

  /** The same of a document's text, which has been read and found sound. @throws ProblemError */
  async auditDocument(text: string, today = new Date().toISOString().slice(0, 10)): Promise<string> {
    const answer = (await this.workers.run({ text, today })) as AuditAnswer;
    if ('tooLarge' in answer) {
      throw new ProblemError(422, 'project-too-large', 'The project is too large', answer.tooLarge);
    }
    return answer.text;
  }

  async onModuleDestroy(): Promise<void> {
    await this.workers.destroy();
  }
}
