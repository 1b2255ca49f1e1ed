import { Inject, Injectable } from '@nestjs/common';
import { audit, type AuditResult, type Project } from '@oquel/core';
import { Database } from '../database/database.js';
import type { GateDto } from '../projects/project.dto.js';
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
    const found = audit(project, { today });
    await this.keepGate(id, gateOf(found, project, version, today));
    return { version, text: JSON.stringify(found) };
  }
  /** The gate with its counts, for the list of projects. The project is audited only if it changed since it last was. */
  async gate(id: string, today: string): Promise<GateDto> {
    const version = await this.store.version(this.db.k, id);
    const row = await this.db.k.selectFrom('projects').select('gate').where('id', '=', id).executeTakeFirst();
    const known = row?.gate ? (JSON.parse(row.gate) as GateDto) : null;
    if (known && known.version === version && known.today === today) return known;
    const { project, version: now } = await this.store.open(this.db.k, id);
    const gate = gateOf(audit(project, { today }), project, now, today);
    await this.keepGate(id, gate);
    return gate;
  }

  private async keepGate(id: string, gate: GateDto): Promise<void> {
    await this.db.k
      .updateTable('projects')
      .set({ gate: JSON.stringify(gate) })
      .where('id', '=', id)
      .execute();
  }
}

function gateOf({ gate, summary }: AuditResult, project: Project, version: number, today: string): GateDto {
  const bindings = project.assets.reduce((n, a) => n + (a.bindings?.length ?? 0), 0);
  return { version, today, gate, ...summary, bindings };
}
