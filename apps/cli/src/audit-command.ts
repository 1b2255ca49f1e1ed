import { audit, auditText, ProjectTooLarge, type AuditResult } from '@oquel/core';
import { Command, InvalidArgumentError, Option } from 'commander';
import { readProjectFile, UsageError } from './input.js';
import type { Streams } from './main.js';

interface AuditFlags {
  format: 'text' | 'json';
  gate?: 'error' | 'warning' | 'none';
  today: string;
}

/** `oquel audit FILE`: audits a document and ends with 1 when the gate stops it. */
export function auditCommand(streams: Streams, exit: (code: number) => void): Command {
  return new Command('audit')
    .description('audit a project document; ends with 1 when the gate stops it, 2 when it cannot be read')
    .argument('<file>', 'the project document')
    .addOption(new Option('--format <format>', 'how to print').choices(['text', 'json']).default('text'))
    .addOption(
      new Option('--gate <level>', "what stops a build; default by the project's policy").choices([
        'error',
        'warning',
        'none',
      ]),
    )
    .option('--today <date>', 'the date on which waivers are judged (YYYY-MM-DD)', isoDate, utcToday())
    .action(async (file: string, flags: AuditFlags) => {
      const { project, unknown } = await readProjectFile(file);
      for (const pointer of unknown) streams.err(`note: unknown property at ${pointer} (kept)\n`);
      const result = auditOrExplain(() => audit(project, { today: flags.today, gate: flags.gate }), file);
      streams.out(flags.format === 'json' ? `${JSON.stringify(result, null, 2)}\n` : auditText(result));
      exit(result.gate === 'stop' ? 1 : 0);
    });
}

function auditOrExplain(run: () => AuditResult, file: string): AuditResult {
  try {
    return run();
  } catch (error) {
    if (error instanceof ProjectTooLarge) throw new UsageError(`${file}: ${error.message}`);
    throw error;
  }
}

function utcToday(): string {
  return new Date().toISOString().slice(0, 10);
}
function isoDate(text: string): string {
  const time = Date.parse(`${text}T00:00:00Z`);
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text) || Number.isNaN(time)) {
    throw new InvalidArgumentError('expected a date such as 2026-11-24');
  }
  if (new Date(time).toISOString().slice(0, 10) !== text) throw new InvalidArgumentError('no such day');
  return text;
}
