import { Inject, Injectable } from '@nestjs/common';
import { audit, projectHash, readProjectText, type AuditResult, type Project } from '@oquel/core';
import { randomUUID } from 'node:crypto';
import { Database, type Reader, type Tx } from '../database/database.js';
import type { EditsDto, StepDto } from '../edits/edit.dto.js';
import { EditsService } from '../edits/edits.service.js';
import { notify } from '../database/notices.js';
import { ProblemError } from '../http/problem.js';
import { ProjectStore } from '../projects/project.store.js';
import { sha256 } from '../sha256.js';
import type { BuildDto, BuildImportDto, FreezeDto, SayDto, WaivedDto } from './build.dto.js';
import { BuildStore } from './build.store.js';

/** What is said of a build when it is made. */
interface NewBuildHead {
  name: string;
  note?: string;
  who: string;
  /** Null for a document that was put in as a build. */
  version: number | null;
  at?: Date;
  key?: string;
}

/** Freezes builds (which takes an audit, so it is done in a worker thread), keeps what was said of them, and goes back to them. */
@Injectable()
export class BuildsService {
  constructor(
    @Inject(Database) private readonly db: Database,
    @Inject(ProjectStore) private readonly projects: ProjectStore,
    @Inject(BuildStore) private readonly builds: BuildStore,
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
  async freeze(id: string, { name, note, who, base, key }: FreezeDto): Promise<BuildDto> {
    const made = await this.builds.made(this.db.k, id, key);
    if (made !== null) return this.one(id, made);
    const { project, version } = await this.projects.open(this.db.k, id);
    if (base !== version) {
      const detail = `you look at version ${base}, and the project is at ${version}; look again and freeze then`;
      throw new ProblemError(409, 'changed-meanwhile', 'The project has changed meanwhile', detail, {
        version,
      });
    }
    await this.builds.checkFree(this.db.k, id, name);
    return this.store(id, project, { name, note, who, version, key });
  }

  /** Puts a document in as a build. @throws BrokenDocument; ProblemError */
  async import(id: string, text: string, { name, note, who, key }: BuildImportDto): Promise<BuildDto> {
    await this.projects.version(this.db.k, id);
    const made = await this.builds.made(this.db.k, id, key);
    if (made !== null) return this.one(id, made);
    await this.builds.checkFree(this.db.k, id, name);
    const { project } = readProjectText(text);
    return this.store(id, project, { name, note, who, version: null, key });
  }

  /** Says of a build that it is let through or held back. @throws ProblemError */
  async say(id: string, build: string, said: SayDto): Promise<BuildDto> {
    await this.db.k.transaction().execute((tx) => this.saySo(tx, id, build, said));
    return this.one(id, build);
  }
  /** The same as part of a transaction. */
  async saySo(tx: Tx, id: string, build: string, said: SayDto & { at?: Date }): Promise<void> {
    const { verdict, who, reason = '', at, key = null } = said;
    await this.builds.say(tx, id, build, { verdict, who, reason, at, key });
    await notify(tx, { what: 'builds', project: id });
  }

  /** Makes the project as it was in a build, by one edit that can be undone. @throws ProblemError */
  async restore(id: string, build: string, dto: StepDto): Promise<EditsDto> {
    const { name, text } = await this.builds.text(this.db.k, id, build, 'document');
    return this.edits.makeLike(id, dto, JSON.parse(text) as Project, `restored build ${name}`);
  }

  private async store(id: string, project: Project, head: NewBuildHead): Promise<BuildDto> {
    return this.one(id, await this.add(this.db.k, id, project, head));
  }
  /** Audits a project and adds it as a build; returns the build's id. @throws ProblemError */
  async add(k: Reader, id: string, project: Project, head: NewBuildHead): Promise<string> {
    const today = (head.at ?? new Date()).toISOString().slice(0, 10);
    const audited = audit(project, { today });
    const { gate, summary, metrics, findings } = audited;
    const build = randomUUID();
    await this.builds.add(k, id, {
      ...head,
      id: build,
      note: head.note ?? '',
      gate,
      wiring: projectHash(project, sha256),
      figures: { summary, metrics },
      waived: waivedIn(project, findings),
      document: JSON.stringify(project),
      audit: JSON.stringify(audited),
      key: head.key ?? null,
    });
    await notify(k, { what: 'builds', project: id });
    return build;
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
