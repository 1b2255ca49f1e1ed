import { Inject, Injectable } from '@nestjs/common';
import { readProjectText, type Project } from '@oquel/core';
import { Database } from '../database/database.js';
import { EditLog } from './edit.log.js';
import { ProjectImport } from './project.import.js';
import { ProjectStore, type ProjectRow } from './project.store.js';
import type { ImportedDto, OpenedDto } from './project.dto.js';

@Injectable()
export class ProjectsService {
  constructor(
    @Inject(Database) private readonly db: Database,
    @Inject(ProjectStore) private readonly store: ProjectStore,
    @Inject(ProjectImport) private readonly importer: ProjectImport,
    @Inject(EditLog) private readonly log: EditLog,
  ) {}

  list(): Promise<ProjectRow[]> {
    return this.store.list(this.db.k);
  }

  /** Reads a document and stores it whole, or says where it is broken and stores nothing. @throws BrokenDocument */
  async import(text: string): Promise<ImportedDto> {
    const { project, unknown } = readProjectText(text);
    const id = await this.importer.store(this.db, project);
    return { id, version: 1, unknown };
  }

  async open(id: string): Promise<OpenedDto> {
    const { project, version } = await this.store.open(this.db.k, id);
    return { id, version, document: project, ...(await this.log.ahead(this.db.k, id)) };
  }

  async document(id: string): Promise<Project> {
    return (await this.store.open(this.db.k, id)).project;
  }
}
