import type { Command } from 'commander';

export interface Example {
  line: string;
  what: string;
}

/**
 * How each command is used, on files that anybody can make: `storm.json` is a project document, `wiring` its folder, `baseline.json`
 * an earlier audit of it. Help and the page on the command line show them, and a test runs every one.
 */
const EXAMPLES: Readonly<Record<string, Example[]>> = {
  audit: [
    { line: 'oquel audit wiring --gate none', what: 'what the audit says, and no more' },
    {
      line: 'oquel audit wiring --baseline baseline.json --report sarif=out.sarif --report junit=out.xml',
      what: 'stop on what is new since a baseline, and leave two reports for the build server',
    },
    { line: 'cat storm.json | oquel audit - --gate none --format csv', what: 'a table of what is piped in' },
  ],
  catalogue: [
    { line: 'oquel catalogue wiring --output catalogue.html', what: 'one page of all names and their users' },
  ],
  compare: [{ line: 'oquel compare storm.json wiring', what: 'what differs between two states' }],
  compile: [
    { line: 'oquel compile wiring --out built', what: 'write what a game loads' },
    {
      line: 'oquel compile wiring --out built --check',
      what: 'stop a build whose wiring is not that of the project',
    },
  ],
  completion: [
    { line: 'oquel completion bash', what: 'for `source <(oquel completion bash)` in `~/.bashrc`' },
  ],
  conformance: [
    {
      line: 'oquel conformance --only breadth-first --run "node with-runtime.mjs {wiring} {steps}"',
      what: 'try one case with a runtime of your own',
    },
  ],
  convert: [
    { line: 'oquel convert storm.json wiring', what: 'a document as a folder with a file for each asset' },
  ],
  explain: [
    { line: 'oquel explain relay-cycle', what: 'what a rule finds, and what to do' },
    { line: 'oquel explain', what: 'all rules, a line each' },
  ],
  fix: [
    { line: 'oquel fix wiring --rule dangling-target', what: 'the fixes that findings of a rule have' },
    {
      line: 'oquel fix wiring --rule duplicate-binding --write',
      what: 'apply every fix that brings no new error',
    },
  ],
  graph: [
    { line: 'oquel graph wiring --output graph.graphml', what: 'the expanded graph for a tool of your own' },
  ],
  init: [{ line: 'oquel init new-game --scene harbour', what: 'a project folder with one empty scene' }],
  merge: [
    { line: 'oquel merge wiring manifest.json --check', what: 'what a manifest of the game would change' },
  ],
  names: [
    {
      line: 'oquel names wiring --to typescript --output names.ts',
      what: 'typed names for the code of the game',
    },
  ],
  observe: [{ line: 'oquel observe wiring play.jsonl', what: 'what a play of the game shows' }],
  rehearse: [
    {
      line: 'oquel rehearse wiring --lcov coverage.info --output rehearsals.txt',
      what: 'run all rehearsals, and tell a build server which bindings they cover',
    },
    {
      line: 'oquel rehearse wiring --name "Boarding at the west platform" --trace',
      what: 'everything that one rehearsal brings about',
    },
  ],
  ripple: [{ line: 'oquel ripple wiring pylon-ridge:mast-1.onGust', what: 'what follows, hop by hop' }],
  schema: [{ line: 'oquel schema --output oquel.schema.json', what: 'for an editor that knows JSON Schema' }],
};

export function examplesOf(command: string): readonly Example[] {
  return EXAMPLES[command] ?? [];
}
/** Shows the examples under a command's help. */
export function addExamples(command: Command): void {
  const examples = examplesOf(command.name());
  if (examples.length === 0) return;
  const lines = examples.map(({ line, what }) => `  ${line}\n      ${what}`);
  command.addHelpText('after', `\nExamples:\n${lines.join('\n')}\n\nEvery command and exit code: oquel help`);
}
