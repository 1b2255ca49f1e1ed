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
  locate,
  readBaseline,
  stopsGate,
  type AuditResult,
  type FindingChange,
  RULES,
  RuleFailed,
  type Project,
  type Rule,
} from '@oquel/core';
import { Command, InvalidArgumentError, Option } from 'commander';
import { artifactOf } from './artifact.js';
import { PROJECT_INPUT, readProjectFrom, readText, textsOf } from './input.js';
import { noteReading } from './notes.js';
import { UsageError } from './paths.js';
import { rulesFrom } from './own-rules.js';
import { writeFile } from './project-folder.js';
import type { Streams } from './streams.js';
import { orExplain } from './too-large.js';
import { VERSION } from './version.js';

type Gate = 'error' | 'warning' | 'none';
const FORMATS = ['text', 'json', 'sarif', 'junit', 'csv'] as const;
type Format = (typeof FORMATS)[number];
interface Report {
  format: Format;
  file: string;
}
interface AuditFlags {
  format: Format;
  report: Report[];
  gate?: Gate;
  baseline?: string;
  today: string;
  guide?: string;
  rules?: string;
}

/** `oquel audit`: audits a document or folder, and ends with 1 when the gate stops it. */
export function auditCommand(streams: Streams, exit: (code: number) => void): Command {
  return new Command('audit')
    .description('audit a project; ends with 1 when the gate stops it, 2 when it cannot be read')
    .argument('<file>', PROJECT_INPUT)
    .addOption(new Option('--format <format>', 'how to print').choices(FORMATS).default('text'))
    .option(
      '--report <format=file>',
      'write it into a file too, such as sarif=out.sarif; may be given several times',
      report,
      [],
    )
    .addOption(
      new Option('--gate <level>', "what stops a build; default by the project's policy").choices([
        'error',
        'warning',
        'none',
      ]),
    )
    .option('--baseline <audit>', 'an earlier audit as JSON: only what is new counts for the gate')
    .option(
      '--guide <address>',
      'of a guide to which rules lead in SARIF, such as https://oquel.example/guide',
      guideAddress,
    )
    .option('--rules <file>', "a JavaScript module with rules of the team's own, run besides the others")
    .option('--today <date>', 'the date on which waivers are judged (YYYY-MM-DD)', isoDate, utcToday())
    .action(async (file: string, flags: AuditFlags) => {
      const read = readProjectFrom(file, streams);
      const { project } = read;
      noteReading(read, streams);
      const own = flags.rules === undefined ? [] : await rulesFrom(flags.rules);
      streams.doing('auditing');
      const begun = performance.now();
      const whole = orExplain(() => auditWith(project, flags, own), file);
      const seconds = Math.round(performance.now() - begun) / 1000;
      const gate = flags.gate ?? project.policy?.gate ?? 'error';
      const judged =
        flags.baseline === undefined ? { result: whole } : withBaseline(whole, flags.baseline, gate);
      const as = (format: Format): string =>
        printed(project, { ...judged, seconds, guide: flags.guide, own }, format, gate, file);
      for (const { format, file: to } of flags.report) writeFile(to, as(format));
      streams.out(as(flags.format));
      exit(judged.result.gate === 'stop' ? 1 : 0);
    });
}

/** With rules of the team's own; one that throws is reported by its name. */
function auditWith(project: Project, { today, gate }: AuditFlags, own: readonly Rule[]): AuditResult {
  try {
    return audit(project, { today, gate, rules: [...RULES, ...own] });
  } catch (error) {
    if (error instanceof RuleFailed) throw new UsageError(error.message);
    throw error;
  }
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
  { result, since, seconds, guide, own }: Judged & { seconds: number; guide?: string; own: Rule[] },
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
      const index = indexProject(project);
      const places = locate(index, [...result.findings, ...(since?.gone ?? [])], textsOf(file));
      const options = {
        artifact: encodeURI(artifactOf(file)),
        index,
        since,
        places,
        version: VERSION,
        guide,
        ownRules: own,
      };
      return `${JSON.stringify(auditSarif(result, options), null, 2)}\n`;
    }
    case 'csv':
      return auditCsv(result);
    case 'junit': {
      const stops = stopsGate(gate);
      const isNew = since && new Set(since.added);
      return auditJunit(result, {
        stops: (f) => stops(f) && (!isNew || isNew.has(f)),
        artifact: artifactOf(file),
        places: locate(indexProject(project), result.findings, textsOf(file)),
        waivers: project.waivers ?? [],
        seconds,
        ownRules: own,
      });
    }
  }
}

/** Adds one report, `format=file`, to those given before. */
function report(text: string, before: Report[]): Report[] {
  const at = text.indexOf('=');
  const format = FORMATS.find((f) => f === text.slice(0, at));
  if (at < 0 || !format || at === text.length - 1)
    throw new InvalidArgumentError(`expected ${FORMATS.join(', ')}, then = and a file`);
  return [...before, { format, file: text.slice(at + 1) }];
}
function guideAddress(text: string): string {
  if (!/^https?:\/\/[^\s]+$/.test(text))
    throw new InvalidArgumentError('expected an address such as https://oquel.example/guide');
  return text.replace(/\/+$/, '');
}
function utcToday(): string {
  return new Date().toISOString().slice(0, 10);
}
function isoDate(text: string): string {
  if (!isIsoDate(text)) throw new InvalidArgumentError('expected a day such as 2026-11-24');
  return text;
}
