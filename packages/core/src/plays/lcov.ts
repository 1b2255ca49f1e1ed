import { assetAtAddress } from '../edit/wiring.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { PlayReport } from './play-report.js';

/**
 * Which bindings have served, as LCOV for build servers: each asset is a file, and each of its bindings a line of it, in the order
 * of the document. An expanded binding counts for the one that is authored. Linear in bindings and in the report.
 */
export function playLcov(index: ProjectIndex, report: PlayReport): string {
  const served = new Map<string, number>();
  for (const { owner, binding, count } of report.coverage.bindings) {
    const asset = assetAtAddress(index, owner);
    if (!asset) continue;
    const key = `${asset.decl.id}/${binding}`;
    served.set(key, (served.get(key) ?? 0) + count);
  }
  const lines: string[] = [];
  for (const { id, bindings = [] } of index.project.assets) {
    if (bindings.length === 0) continue;
    const counts = bindings.map((b) => (b.enabled === false ? null : (served.get(`${id}/${b.id}`) ?? 0)));
    lines.push('TN:', `SF:${id}`);
    counts.forEach((n, i) => n !== null && lines.push(`DA:${i + 1},${n}`));
    lines.push(
      `LF:${counts.filter((n) => n !== null).length}`,
      `LH:${counts.filter((n) => n !== null && n > 0).length}`,
      'end_of_record',
    );
  }
  return lines.map((line) => `${line}\n`).join('');
}
