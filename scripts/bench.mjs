import { installNpmPackages } from './lib/packages.mjs';
import { runScript, say, Trouble } from './lib/say.mjs';

/** Benchmarks by name, each in `bench/`. */
const BENCHES = {
  audit:
    'reading, expansion, graph and all rules at 10 thousand, 100 thousand and a million expanded bindings',
  compile:
    'compiling a million bindings beside auditing them; reading what was compiled beside JSON.parse: [SIZE]',
  declare: 'making what thousands of lines need; merging a manifest of 100 thousand placements',
  generate: 'writes a large project: SIZE FILE [SEED]',
  interface:
    'opening, choosing, filtering, editing and panning with 100 thousand expanded bindings, in Chromium',
  kills:
    'server and database killed again and again under clients that edit: nothing confirmed is lost or doubled',
  observe: 'judging ten million records of play on the command line, in bounded memory: [RECORDS]',
  pressure:
    'very long edits, very many audits, a very large import, very many windows, and whether the server answers meanwhile',
  rehearse: 'a dry run of a million deliveries',
  ripple: 'following, laying out and panning a ripple of 10 thousand entries, in Chromium',
  runtime: 'a raise in the runtime beside an event emitter, with 1, 10 and 100 listeners',
  start: 'cold and warm `npm start` in a fresh clone',
  store:
    'import of a million bindings beside a raw COPY of the same rows; freezing and comparing builds of 100 thousand',
  team: '200 windows on 20 projects and five edits a second: how soon one is answered, and seen by every other window',
  walk: 'walking over 5 thousand things in frames a second; from an edit in Wire to the walk with it: [SIZE]',
  worst: 'inputs as bad as can be for one part each, and how the time grows when they double',
  wire: 'clicks and keys for a binding, and the time from an edit to the updated strip, on the demo',
};

await runScript(async () => {
  const [name, ...args] = process.argv.slice(2);
  if (!Object.hasOwn(BENCHES, name ?? '')) {
    say('Usage: npm run bench -- NAME');
    for (const [n, what] of Object.entries(BENCHES)) say(`  ${n.padEnd(11)} ${what}`);
    if (name !== undefined)
      throw new Trouble(`There is no benchmark "${name}".`, 'Choose one of those above.');
    return 0;
  }
  await installNpmPackages();
  const { default: bench } = await import(`../bench/${name}.mjs`);
  return bench(args);
});
