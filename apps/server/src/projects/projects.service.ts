import { Inject, Injectable } from '@nestjs/common';
import { readProjectText, type Project } from '@oquel/core';
import { Database } from '../database/database.js';
import { LIMITS } from '../limits.js';
import { EditLog } from './edit.log.js';
import { ProjectImport } from './project.import.js';
import { ProjectStore } from './project.store.js';
import type { ImportedDto, OpenedDto } from './project.dto.js';

@Injectable()
export class ProjectsService {
  constructor(
    @Inject(Database) private readonly db: Database,
    @Inject(ProjectStore) private readonly store: ProjectStore,
    @Inject(ProjectImport) private readonly importer: ProjectImport,
    @Inject(EditLog) private readonly log: EditLog,
  ) {}

  /** Reads a document and stores it whole, or says where it is broken and stores nothing. @throws BrokenDocument */
  async import(text: string, key: string | null = null, owner: string | null = null): Promise<ImportedDto> {
    const { project, unknown, repeated } = readProjectText(text);
    const { id, bytes } = await this.importer.store(this.db, project, key, owner);
    // Whoever imports a project opens it next.
    if (bytes !== null) this.store.keep(id, { version: 1, project, bytes });
    return { id, version: 1, unknown, repeated };
  }
  /** Whether a project is small enough to be opened and sent by the event loop. @throws ProblemError 404 */
  async opensHere(id: string): Promise<boolean> {
    return (await this.store.bytes(this.db.k, id)) <= LIMITS.heavy.project;
  }
  async open(id: string, author: string | null): Promise<OpenedDto> {
    const { project, version } = await this.store.open(this.db.k, id);
    return { id, version, document: project, ...(await this.log.ahead(this.db.k, id, author)) };
  }

  async document(id: string): Promise<Project> {
    return (await this.store.open(this.db.k, id)).project;
  }
}
