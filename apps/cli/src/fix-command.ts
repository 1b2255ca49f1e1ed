import {
  applyChanges,
  audit,
  fixAlike,
  oneLine,
  proposeFixes,
  toFolder,
  type Finding,
  type Project,
} from '@oquel/core';
import { Command } from 'commander';
import { readProjectFrom } from './input.js';
import { isFolder, UsageError } from './paths.js';
import { writeFile, writeFolder } from './project-folder.js';
import { isStandardInput } from './standard-input.js';
import type { Streams } from './streams.js';
import { orExplain } from './too-large.js';

interface FixFlags {
  finding?: string;
  rule?: string;
  choice?: string;
  write?: boolean;
}

/**
 * `oquel fix`: lists the fixes that findings have, each tried by an audit, and with `--write` applies them. Cost: an audit for each fix
 * that is tried.
 */
export function fixCommand(streams: Streams): Command {
  return new Command('fix')
    .description('list fixes for findings, each tried by an audit; --write applies them')
    .argument('<file>', 'the project document or folder')
    .option('--finding <fingerprint>', 'only this finding')
    .option('--rule <rule>', 'only findings of this rule')
    .option('--choice <number>', 'which fix of the finding; 1 if not given')
    .option('--write', 'apply: with --finding the chosen fix, with --rule every fix that brings no new error')
    .action((file: string, flags: FixFlags) => {
      checkFlags(file, flags);
      const { project } = readProjectFrom(file, streams);
      const today = new Date().toISOString().slice(0, 10);
      streams.doing('auditing');
      const { findings } = orExplain(() => audit(project, { today }), file);
      const wanted = findings.filter((f) => !f.waived).filter((f) => isWanted(f, flags));
      if (wanted.length === 0) {
        if (flags.finding !== undefined || flags.rule !== undefined)
          throw new UsageError(`${file} has no such finding; oquel audit lists them`);
        return streams.out('no findings\n');
      }
      streams.doing('trying fixes');
      if (flags.write !== true) return streams.out(listed(project, wanted, today));
      const { changed, said } =
        flags.finding === undefined
          ? fixRule(project, wanted, today)
          : fixOne(project, wanted[0], Number(flags.choice ?? 1), today);
      streams.out(said);
      if (changed === project) return;
      if (isFolder(file)) writeFolder(file, toFolder(changed));
      else writeFile(file, `${JSON.stringify(changed, null, 2)}\n`);
      streams.err(`${file} is written.\n`);
    });
}

function checkFlags(file: string, { finding, rule, choice, write }: FixFlags): void {
  if (write === true && isStandardInput(file))
    throw new UsageError('the project is written anew, so it cannot come from standard input');
  if (write === true && finding === undefined && rule === undefined)
    throw new UsageError('say what to fix: --finding FINGERPRINT, or --rule RULE for all of a rule');
  if (choice !== undefined && finding === undefined)
    throw new UsageError('--choice chooses among the fixes of one finding; name it with --finding');
  if (choice !== undefined && !/^[1-9]\d*$/.test(choice))
    throw new UsageError(`--choice takes a number such as 1, not "${choice}"`);
}
function isWanted({ fingerprint, rule, class: kind }: Finding, flags: FixFlags): boolean {
  if (flags.finding !== undefined && fingerprint !== flags.finding) return false;
  return flags.rule === undefined || rule === flags.rule || `${rule}/${kind}` === flags.rule;
}

function listed(project: Project, findings: readonly Finding[], today: string): string {
  const lines: string[] = [];
  let without = 0;
  for (const finding of findings) {
    const fixes = proposeFixes(project, finding, today);
    if (fixes.length === 0) {
      without++;
      continue;
    }
    lines.push(`${finding.fingerprint} ${finding.rule}: ${finding.message}`);
    fixes.forEach(({ label, gone, added }, i) =>
      lines.push(`    ${i + 1}  ${label} (${effectOf(gone.length, added)})`),
    );
  }
  if (without > 0)
    lines.push(`${without} ${without === 1 ? 'finding needs' : 'findings need'} a decision of yours`);
  return `${lines.map(oneLine).join('\n')}\n`;
}
function effectOf(gone: number, added: readonly Finding[]): string {
  const fixes = `fixes ${gone}`;
  return added.length === 0 ? fixes : `${fixes}, brings ${added.map((f) => f.rule).join(', ')}`;
}

interface Fixed {
  changed: Project;
  said: string;
}
function fixOne(project: Project, finding: Finding, n: number, today: string): Fixed {
  const fixes = proposeFixes(project, finding, today);
  const fix = fixes.at(n - 1);
  if (!fix) {
    const there = fixes.length === 0 ? 'none' : `${fixes.length}`;
    throw new UsageError(
      `${finding.fingerprint} has no fix ${n}; there ${fixes.length === 1 ? 'is' : 'are'} ${there}`,
    );
  }
  return { changed: applyChanges(project, fix.changes).project, said: `${oneLine(fix.label)}\n` };
}
/** Kind after kind, as each fix changes what the next one finds. */
function fixRule(project: Project, wanted: readonly Finding[], today: string): Fixed {
  let changed = project;
  const lines: string[] = [];
  let left = 0;
  for (const kind of new Set(wanted.map((f) => f.class))) {
    const like = wanted.find((f) => f.class === kind)!;
    const fix = fixAlike(changed, like, today);
    if (fix.changes.length > 0) changed = applyChanges(changed, fix.changes).project;
    for (const { label } of fix.steps) lines.push(oneLine(label));
    left += fix.left;
  }
  if (left > 0) lines.push(`${left} left: no fix without new errors, or more than are tried at once`);
  return { changed, said: `${lines.join('\n')}\n` };
}
