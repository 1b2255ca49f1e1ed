import { ReportSum, type PlayReport } from '@oquel/core';
import type { Reader } from '../database/database.js';
import { ProblemError } from '../http/problem.js';
import { LIMITS } from '../limits.js';

/** What all plays of a project say together that are judged by the same wiring as the newest. */
export interface PlaysTogether {
  /** How many plays they are. */
  plays: number;
  report: PlayReport;
}

/**
 * Adds up the reports of a project's plays, the newest first. One report is held at a time besides the sum; cost: linear in
 * the reports. @throws ProblemError 404 where there is none
 */
export async function playsTogether(k: Reader, project: string): Promise<PlaysTogether> {
  const rows = await k
    .selectFrom('plays')
    .select('id')
    .where('project_id', '=', project)
    .orderBy('at', 'desc')
    .limit(LIMITS.plays.kept)
    .execute();
  const sum = new ReportSum();
  for (const { id } of rows) {
    const row = await k.selectFrom('plays').select('report').where('id', '=', id).executeTakeFirst();
    if (row) sum.add(JSON.parse(row.report) as PlayReport);
  }
  const report = sum.report();
  if (!report)
    throw new ProblemError(404, 'no-play', 'No such play', 'no game has sent a play to this project yet');
  return { plays: sum.count, report };
}
