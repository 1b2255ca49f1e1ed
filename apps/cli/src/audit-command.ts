import { basename } from 'node:path';
import {
  againstBaseline,
  audit,
  auditCsv,
  auditJunit,
  auditSarif,
  auditText,
  BrokenBaseline,
  indexProject,
  isIsoDate,
  readBaseline,
  stopsGate,
  type AuditResult,
  type FindingChange,
  type Project,
} from '@oquel/core';
import { Command, InvalidArgumentError, Option } from 'commander';
import { readProjectFrom, readText } from './input.js';
import { noteReading } from './notes.js';
import { UsageError } from './paths.js';
import type { Streams } from './streams.js';
import { orExplain } from './too-large.js';

type Gate = 'error' | 'warning' | 'none';
interface AuditFlags {
  format: 'text' | 'json' | 'sarif' | 'junit' | 'csv';
  gate?: Gate;
  baseline?: string;
  today: string;
}

/** `oquel audit`: audits a document or folder, and ends with 1 when the gate stops it. */
export function auditCommand(streams: Streams, exit: (code: number) => void): Command {
  return new Command('audit')
    .description('audit a project; ends with 1 when the gate stops it, 2 when it cannot be read')
    .argument('<file>', 'the project document or folder')
    .addOption(
      new Option('--format <format>', 'how to print')
        .choices(['text', 'json', 'sarif', 'junit', 'csv'])
        .default('text'),
    )
    .addOption(
      new Option('--gate <level>', "what stops a build; default by the project's policy").choices([
        'error',
        'warning',
        'none',
      ]),
    )
    .option('--baseline <audit>', 'an earlier audit as JSON: only what is new counts for the gate')
    .option('--today <date>', 'the date on which waivers are judged (YYYY-MM-DD)', isoDate, utcToday())
    .action((file: string, flags: AuditFlags) => {
      const read = readProjectFrom(file);
      const { project } = read;
      noteReading(read, streams);
      const whole = orExplain(() => audit(project, { today: flags.today, gate: flags.gate }), file);
      const gate = flags.gate ?? project.policy?.gate ?? 'error';
      const judged =
        flags.baseline === undefined ? { result: whole } : withBaseline(whole, flags.baseline, gate);
      streams.out(printed(project, judged, flags.format, gate, file));
      exit(judged.result.gate === 'stop' ? 1 : 0);
    });
}

interface Judged {
  result: AuditResult;
  since?: FindingChange;
}

function withBaseline(result: AuditResult, file: string, gate: Gate): Judged {
  try {
    return againstBaseline(result, readBaseline(readText(file)), gate);
  } catch (error) {
    if (error instanceof BrokenBaseline) throw new UsageError(`${file} is no baseline: ${error.message}`);
    throw error;
  }
}

function printed(
  project: Project,
  { result, since }: Judged,
  format: AuditFlags['format'],
  gate: Gate,
  file: string,
): string {
  switch (format) {
    case 'text':
      return auditText(result, since);
    case 'json':
      return `${JSON.stringify(result, null, 2)}\n`;
    case 'sarif': {
      const options = { artifact: encodeURI(basename(file)), index: indexProject(project), since };
      return `${JSON.stringify(auditSarif(result, options), null, 2)}\n`;
    }
    case 'csv':
      return auditCsv(result);
    case 'junit': {
      const stops = stopsGate(gate);
      const isNew = since && new Set(since.added);
      return auditJunit(result, (f) => stops(f) && (!isNew || isNew.has(f)));
    }
  }
}

function utcToday(): string {
  return new Date().toISOString().slice(0, 10);
}
function isoDate(text: string): string {
  if (!isIsoDate(text)) throw new InvalidArgumentError('expected a day such as 2026-11-24');
  return text;
}
