import type { Argument, Command, Option } from 'commander';
import { EXIT_WORDS } from './exit-codes.js';
import { examplesOf } from './examples.js';
import { program } from './program.js';

/** The page on all commands, as Markdown. */
export function commandLinePage(): string {
  const nowhere = { out: () => undefined, err: () => undefined };
  const { commands: root } = program(nowhere, () => undefined);
  return [
    '# Command line',
    '',
    'Made by `npm run docs` from the commands themselves. In this repository: `npx oquel COMMAND`, after `npm run build`. No command needs',
    'a server, a database or a network. What a command prints goes to standard output, what it has to say besides to standard error.',
    '',
    '| command | what it does |',
    '| --- | --- |',
    ...root.commands.map((c) => `| [${c.name()}](#${c.name()}) | ${cell(c.description())} |`),
    '',
    '## Exit codes',
    '',
    '| code | meaning |',
    '| --- | --- |',
    ...Object.entries(EXIT_WORDS).map(([code, words]) => `| ${code} | ${words} |`),
    '',
    ...root.commands.flatMap(section),
  ].join('\n');
}

function section(command: Command): string[] {
  const args = command.registeredArguments;
  const options = command.options.filter((o) => !o.hidden);
  return [
    `## ${command.name()}`,
    '',
    `    oquel ${command.name()} ${command.usage()}`,
    '',
    `${sentence(command.description())}`,
    '',
    ...(args.length + options.length === 0 ? [] : ['| | |', '| --- | --- |']),
    ...args.map(
      (a) => `| \`${a.required ? `<${a.name()}>` : `[${a.name()}]`}\` | ${cell(argumentText(a))} |`,
    ),
    ...options.map((o) => `| \`${o.flags}\` | ${cell(optionText(o))} |`),
    '',
    ...examplesOf(command.name()).flatMap(({ line, what }) => [`${sentence(what)}`, '', `    ${line}`, '']),
  ];
}
function argumentText({ description, argChoices }: Argument): string {
  return argChoices ? `${description}: ${argChoices.join(', ')}` : description;
}
function optionText({ description, argChoices, defaultValue, defaultValueDescription }: Option): string {
  const choices = argChoices ? `: ${argChoices.join(', ')}` : '';
  // A day is the one on which it runs.
  const isFixed = typeof defaultValue === 'string' && !/^\d{4}-\d\d-\d\d$/.test(defaultValue);
  const usual = defaultValueDescription ?? (isFixed ? defaultValue : undefined);
  return `${description}${choices}${usual === undefined ? '' : `; ${usual} if not given`}`;
}
function sentence(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}
function cell(text: string): string {
  return text.replaceAll('|', '\\|');
}
