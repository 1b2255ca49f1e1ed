import { Argument, Command } from 'commander';
import type { Streams } from './streams.js';

/** `oquel completion`: prints what makes a shell complete the commands, their options and the values of these. */
export function completionCommand(streams: Streams, root: () => Command): Command {
  return new Command('completion')
    .description('print what makes a shell complete commands, options and files')
    .addArgument(new Argument('<shell>', 'the shell').choices(['bash', 'zsh']))
    .action((shell: 'bash' | 'zsh') => {
      const script = bashScript(root());
      streams.out(
        shell === 'bash'
          ? script
          : `autoload -U +X compinit && compinit\nautoload -U +X bashcompinit && bashcompinit\n${script}`,
      );
    });
}

function bashScript(root: Command): string {
  const names = root.commands.map((c) => c.name());
  const options = root.commands.map(
    (c) => `    ${c.name()}) options="${[...flagsOf(c), '--help'].join(' ')}" ;;`,
  );
  const values = root.commands.flatMap((c) =>
    c.options
      .filter((o) => o.argChoices)
      .map((o) => `    "${c.name()} ${o.long}") words="${o.argChoices!.join(' ')}" ;;`),
  );
  const first = root.commands.flatMap((c) => {
    const [argument] = c.registeredArguments;
    return argument?.argChoices ? [`    ${c.name()}) choices="${argument.argChoices.join(' ')}" ;;`] : [];
  });
  return [
    '# oquel completion for bash: source it, or put it where your shell looks for completions.',
    '_oquel() {',
    '  local word="${COMP_WORDS[COMP_CWORD]}" command="${COMP_WORDS[1]}" words="" options="" choices=""',
    '  COMPREPLY=()',
    '  if [ "$COMP_CWORD" -eq 1 ]; then',
    `    COMPREPLY=($(compgen -W "${[...names, 'help', '--version', '--help', '--debug'].join(' ')}" -- "$word"))`,
    '    return',
    '  fi',
    '  case "$command ${COMP_WORDS[COMP_CWORD - 1]}" in',
    ...values,
    '    *) ;;',
    '  esac',
    '  if [ -n "$words" ]; then',
    '    COMPREPLY=($(compgen -W "$words" -- "$word"))',
    '    return',
    '  fi',
    '  case "$command" in',
    ...options,
    '    *) ;;',
    '  esac',
    '  case "$command" in',
    ...first,
    '    *) ;;',
    '  esac',
    '  case "$word" in',
    '    -*) COMPREPLY=($(compgen -W "$options" -- "$word")) ;;',
    '    *) if [ -n "$choices" ]; then COMPREPLY=($(compgen -W "$choices" -- "$word")); else COMPREPLY=($(compgen -f -- "$word")); fi ;;',
    '  esac',
    '}',
    'complete -o filenames -F _oquel oquel',
    '',
  ].join('\n');
}
function flagsOf(command: Command): string[] {
  return command.options.filter((o) => !o.hidden).flatMap((o) => o.long ?? []);
}
