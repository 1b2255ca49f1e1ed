import { Injectable } from '@nestjs/common';
import type { Reader, Tx } from '../database/database.js';
import { ProblemError } from '../http/problem.js';
import type { BuildDto, BuildVerdictDto, WaivedDto } from './build.dto.js';

/** A build that is about to be stored. Texts are JSON. */
export interface NewBuild {
  id: string;
  name: string;
  note: string;
  who: string;
  at?: Date;
  version: number | null;
  gate: 'pass' | 'stop';
  /** The hash of its compiled wiring. */
  wiring: string;
  figures: { summary: object; metrics: object };
  waived: WaivedDto[];
  document: string;
  audit: string;
  key: string | null;
}

/** Builds as rows. They are added to and never changed. */
@Injectable()
export class BuildStore {
  /** All builds of a project with what was said of them, the oldest first; their documents and audits stay where they are. */
  async list(k: Reader, project: string): Promise<BuildDto[]> {
    const rows = await k
      .selectFrom('builds')
      .select(['id', 'name', 'note', 'who', 'at', 'version', 'gate', 'figures', 'waived'])
      .where('project_id', '=', project)
      .orderBy('at')
      .orderBy('name')
      .execute();
    const said = await k
      .selectFrom('build_verdicts')
      .innerJoin('builds', 'builds.id', 'build_verdicts.build_id')
      .select(['build_id', 'verdict', 'build_verdicts.who', 'build_verdicts.at', 'reason'])
      .where('project_id', '=', project)
      .orderBy('n')
      .execute();
    const byBuild = new Map<string, BuildVerdictDto[]>();
    for (const { build_id: build, ...verdict } of said) {
      byBuild.set(build, [...(byBuild.get(build) ?? []), verdict]);
    }
    return rows.map(({ figures, waived, ...row }) => ({
      ...row,
      ...(JSON.parse(figures) as Pick<BuildDto, 'summary' | 'metrics'>),
      waived: JSON.parse(waived) as WaivedDto[],
      verdicts: byBuild.get(row.id) ?? [],
    }));
  }

  /** A build's document or audit as it was stored. @throws ProblemError 404 */
  async text(
    k: Reader,
    project: string,
    build: string,
    part: 'document' | 'audit',
  ): Promise<{ name: string; text: string }> {
    const row = await k
      .selectFrom('builds')
      .select(['name', `${part} as text`])
      .where('project_id', '=', project)
      .where('id', '=', build)
      .executeTakeFirst();
    if (!row) throw noSuchBuild();
    return row;
  }

  /** The newest build with that hash of its compiled wiring; null for none. */
  async withWiring(
    k: Reader,
    project: string,
    wiring: string,
  ): Promise<{ name: string; document: string } | null> {
    const row = await k
      .selectFrom('builds')
      .select(['name', 'document'])
      .where('project_id', '=', project)
      .where('wiring', '=', wiring)
      .orderBy('at', 'desc')
      .limit(1)
      .executeTakeFirst();
    return row ?? null;
  }

  /** @throws ProblemError 409 when the name is taken */
  async add(k: Reader, project: string, { figures, waived, ...build }: NewBuild): Promise<void> {
    const row = {
      ...build,
      project_id: project,
      figures: JSON.stringify(figures),
      waived: JSON.stringify(waived),
    };
    const added = await k
      .insertInto('builds')
      .values(row)
      .onConflict((c) => c.columns(['project_id', 'name']).doNothing())
      .executeTakeFirst();
    if (added.numInsertedOrUpdatedRows === 0n) throw nameTaken(build.name);
  }
  /** The build that was made by a request with that key, if any. */
  async made(k: Reader, project: string, key: string | undefined): Promise<string | null> {
    if (key === undefined) return null;
    const row = await k
      .selectFrom('builds')
      .select('id')
      .where('project_id', '=', project)
      .where('key', '=', key)
      .executeTakeFirst();
    return row?.id ?? null;
  }
  /** @throws ProblemError 409 when the name is taken, so that nothing costly is done in vain */
  async checkFree(k: Reader, project: string, name: string): Promise<void> {
    const row = await k
      .selectFrom('builds')
      .select('id')
      .where('project_id', '=', project)
      .where('name', '=', name)
      .executeTakeFirst();
    if (row) throw nameTaken(name);
  }

  /** Adds what somebody says of a build; a gate that it goes against asks for a reason. @throws ProblemError */
  async say(
    tx: Tx,
    project: string,
    build: string,
    said: Omit<BuildVerdictDto, 'at'> & { at?: Date; key: string | null },
  ): Promise<void> {
    const row = await tx
      .selectFrom('builds')
      .select('gate')
      .where('project_id', '=', project)
      .where('id', '=', build)
      .forUpdate()
      .executeTakeFirst();
    if (!row) throw noSuchBuild();
    const against = (row.gate === 'stop') === (said.verdict === 'through');
    if (against && said.reason.trim() === '') {
      const detail =
        said.verdict === 'through'
          ? 'the gate stopped this build; say why it is let through nevertheless'
          : 'the gate let this build pass; say why it is held back nevertheless';
      throw new ProblemError(422, 'reason-needed', 'A reason is needed', detail);
    }
    if (said.key !== null) {
      const known = await tx
        .selectFrom('build_verdicts')
        .select('n')
        .where('build_id', '=', build)
        .where('key', '=', said.key)
        .executeTakeFirst();
      if (known) return;
    }
    const { n } = await tx
      .selectFrom('build_verdicts')
      .select((e) => e.fn.countAll<string>().as('n'))
      .where('build_id', '=', build)
      .executeTakeFirstOrThrow();
    await tx
      .insertInto('build_verdicts')
      .values({ build_id: build, n: Number(n) + 1, ...said })
      .execute();
  }
}

export function noSuchBuild(): ProblemError {
  return new ProblemError(404, 'no-build', 'No such build', 'this project has no build of that id');
}
function nameTaken(name: string): ProblemError {
  const detail = `there is a build called "${name}" already; give this one another name`;
  return new ProblemError(409, 'build-name-taken', 'The name is taken', detail);
}
