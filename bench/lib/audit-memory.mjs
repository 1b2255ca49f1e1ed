import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from '../../scripts/lib/root.mjs';

/** What it takes to read a document and to keep its audit up with edits, in a process that does nothing else. */
const core = await import(join(ROOT, 'packages/core/dist/index.js'));
const text = readFileSync(process.argv[2], 'utf8');
const { project } = core.readProject(JSON.parse(text));
const audit = core.IncrementalAudit.open(project, '2026-11-24');
const peak = process.resourceUsage().maxRSS / 1024;
console.log(
  `  peak memory          ${peak.toFixed(0)} MB to open it with ${audit.result.findings.length} findings, ` +
    `its text of ${(text.length / 1e6).toFixed(0)} MB included`,
);
