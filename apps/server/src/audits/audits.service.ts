import { Inject, Injectable } from '@nestjs/common';
import { audit } from '@oquel/core';
import { Database } from '../database/database.js';
import { ProjectStore } from '../projects/project.store.js';

/** Audits of stored projects. They take long, so they run in a worker thread. */
@Injectable()
export class AuditsService {
  constructor(
    @Inject(Database) private readonly db: Database,
    @Inject(ProjectStore) private readonly store: ProjectStore,
  ) {}

  /** The audit as JSON text, of the project as it is stored now. @throws ProblemError; ProjectTooLarge */
  async audit(id: string, today: string): Promise<{ version: number; text: string }> {
    const { project, version } = await this.store.open(this.db.k, id);
    return { version, text: JSON.stringify(audit(project, { today })) };
  }
}
