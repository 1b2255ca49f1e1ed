import { Inject, Injectable } from '@nestjs/common';
import { readProjectText, type AuditResult, type Project } from '@oquel/core';
import { randomUUID } from 'node:crypto';
import { AuditsService } from '../audits/audits.service.js';
import { Database } from '../database/database.js';
import type { EditedDto, StepDto } from '../edits/edit.dto.js';
import { EditsService } from '../edits/edits.service.js';
import { tell } from '../database/notices.js';
import { ProblemError } from '../http/problem.js';
import { ProjectStore } from '../projects/project.store.js';
import type { BuildDto, BuildImportDto, FreezeDto, SayDto, WaivedDto } from './build.dto.js';
import { BuildStore } from './build.store.js';

/** Freezes builds, keeps what was said of them, and goes back to them. */
@Injectable()
export class BuildsService {
  constructor(
    @Inject(Database) private readonly db: Database,
    @Inject(ProjectStore) private readonly projects: ProjectStore,
    @Inject(BuildStore) private readonly builds: BuildStore,
    @Inject(AuditsService) private readonly audits: AuditsService,
    @Inject(EditsService) private readonly edits: EditsService,
  ) {}

  async list(id: string): Promise<BuildDto[]> {
    await this.projects.version(this.db.k, id);
    return this.builds.list(this.db.k, id);
  }
  async text(id: string, build: string, part: 'document' | 'audit'): Promise<{ name: string; text: string }> {
    return this.builds.text(this.db.k, id, build, part);
  }

  /**
   * Freezes the project as it is stored. The audit runs before anything is stored and outside of any transaction; what is
   * stored is what was audited, whatever is edited meanwhile. @throws ProblemError
   */
  async freeze(id: string, { name, note, who, base }: FreezeDto): Promise<BuildDto> {
    const { project, version } = await this.projects.open(this.db.k, id);
    if (base !== version) {
      const detail = `you look at version ${base}, and the project is at ${version}; look again and freeze then`;
      throw new ProblemError(409, 'changed-meanwhile', 'The project has changed meanwhile', detail, {
        version,
      });
    }
    await this.builds.checkFree(this.db.k, id, name);
    return this.store(id, project, { name, note, who, version });
  }

  /** Puts a document in as a build. @throws BrokenDocument; ProblemError */
  async import(
    id: string,
    text: string,
    { name, note, who, at }: BuildImportDto & { at?: Date },
  ): Promise<BuildDto> {
    await this.projects.version(this.db.k, id);
    await this.builds.checkFree(this.db.k, id, name);
    const { project } = readProjectText(text);
    return this.store(id, project, { name, note, who, at, version: null });
  }

  /** Says of a build that it is let through or held back. @throws ProblemError */
  async say(id: string, build: string, said: SayDto & { at?: Date }): Promise<BuildDto> {
    const { verdict, who, reason = '', at } = said;
    await this.db.k.transaction().execute(async (tx) => {
      await this.builds.say(tx, id, build, { verdict, who, reason, at });
      await tell(tx, { what: 'builds', project: id });
    });
    return this.one(id, build);
  }

  /** Makes the project as it was in a build, by one edit that can be undone. @throws ProblemError */
  async restore(id: string, build: string, dto: StepDto): Promise<EditedDto> {
    const { name, text } = await this.builds.text(this.db.k, id, build, 'document');
    return this.edits.makeLike(id, dto, JSON.parse(text) as Project, `went back to build ${name}`, false);
  }

  private async store(
    id: string,
    project: Project,
    head: { name: string; note?: string; who: string; version: number | null; at?: Date },
  ): Promise<BuildDto> {
    const document = JSON.stringify(project);
    const today = head.at?.toISOString().slice(0, 10);
    const text = await this.audits.auditDocument(document, today);
    const { gate, summary, metrics, findings } = JSON.parse(text) as AuditResult;
    const build = randomUUID();
    await this.builds.add(this.db.k, id, {
      ...head,
      id: build,
      note: head.note ?? '',
      gate,
      figures: { summary, metrics },
      waived: waivedIn(project, findings),
      document,
      audit: text,
    });
    await tell(this.db.k, { what: 'builds', project: id });
    return this.one(id, build);
  }
  private async one(id: string, build: string): Promise<BuildDto> {
    return (await this.builds.list(this.db.k, id)).find((b) => b.id === build)!;
  }
}

function waivedIn({ waivers = [] }: Project, findings: AuditResult['findings']): WaivedDto[] {
  const byFingerprint = new Map(waivers.map((w) => [w.fingerprint, w]));
  return findings.flatMap(({ waived, fingerprint, rule, message }) => {
    const waiver = waived ? byFingerprint.get(fingerprint) : undefined;
    if (!waiver) return [];
    return [{ rule, message, reason: waiver.reason, by: waiver.by, until: waiver.until ?? null }];
  });
}
