import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Ajv } from 'ajv';
import { Ajv2020 } from 'ajv/dist/2020.js';
import ts from 'typescript';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { DEMO, oquel, written } from './harness.js';

const HUT = {
  format: 'oquel.project/1',
  name: 'Hut',
  enums: [{ name: 'Line', values: ['east', 'west'] }],
  tables: [{ name: 'Texts', keys: ['hut.open', 'hut.shut'] }],
  channels: [{ name: 'fog', payload: [{ name: 'depth', type: 'float' }] }],
  peers: [{ name: 'host', role: 'server' }],
  assets: [
    {
      id: 'hut',
      kind: 'scene',
      placements: [
        { id: 'door', asset: 'Door' },
        { id: 'lamp', asset: 'Lamp' },
      ],
      bindings: [
        {
          id: 'b1',
          from: { at: 'door', event: 'onOpened' },
          to: { at: 'lamp', action: 'light' },
          args: { line: { payload: 'line' } },
        },
      ],
    },
    {
      id: 'Door',
      kind: 'prefab',
      events: [
        {
          name: 'onOpened',
          cause: { type: 'use' },
          payload: [
            { name: 'line', type: 'enum:Line' },
            { name: 'text', type: 'key:Texts', optional: true },
          ],
        },
        { name: 'onShut', cause: { type: 'use' } },
      ],
    },
    {
      id: 'Lamp',
      kind: 'prefab',
      actions: [{ name: 'light', params: [{ name: 'line', type: 'enum:Line' }] }, { name: 'unwired' }],
    },
  ],
};
const GAME = `
import { performWith, type Handlers, type Publish, type Raise } from './names.js';
declare const raise: Raise;
declare const publish: Publish;
const handlers: Handlers = { Lamp: { light(address, args) { console.log(address, args.line === 'east'); } } };
export const perform = performWith(handlers);
raise('hut:door', 'onOpened', { line: 'east', text: 'hut.open' }, { activator: 'Lamp', by: 'host' });
raise('hut:door', 'onShut', {});
publish('fog', { depth: 2 });
`;

let folder: string;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'oquel-names-'));
  const { out, code } = await oquel('names', written(folder, 'hut.json', HUT), '--to', 'typescript');
  expect(code).toBe(0);
  writeFileSync(join(folder, 'names.ts'), out);
});

const OPTIONS: ts.CompilerOptions = {
  strict: true,
  noEmit: true,
  target: ts.ScriptTarget.ES2022,
  module: ts.ModuleKind.NodeNext,
  moduleResolution: ts.ModuleResolutionKind.NodeNext,
  types: [],
};
/** The platform's own declarations are the same for every game. */
const kept = new Map<string, ts.SourceFile | undefined>();
function host(): ts.CompilerHost {
  const own = ts.createCompilerHost(OPTIONS);
  return {
    ...own,
    getSourceFile: (name, ...rest) => {
      if (name.startsWith(folder)) return own.getSourceFile(name, ...rest);
      if (!kept.has(name)) kept.set(name, own.getSourceFile(name, ...rest));
      return kept.get(name);
    },
  };
}
/** What the compiler says of a game, a line each. */
function compile(game: string): string[] {
  writeFileSync(join(folder, 'game.ts'), game);
  const program = ts.createProgram([join(folder, 'game.ts')], OPTIONS, host());
  const ours = program.getSourceFiles().filter((f) => f.fileName.startsWith(folder));
  return ours
    .flatMap((f) => [...program.getSyntacticDiagnostics(f), ...program.getSemanticDiagnostics(f)])
    .map((d) => ts.flattenDiagnosticMessageText(d.messageText, '\n'));
}

describe('names as TypeScript', () => {
  it('let a game compile that raises what there is and performs what is wired', () => {
    expect(compile(GAME)).toEqual([]);
  });
  it.each<[string, string, string, RegExp]>([
    ['raises an event that does not exist', "'onShut'", "'onClosed'", /'"onClosed"' is not assignable/],
    [
      'raises an event of nothing',
      "'hut:door', 'onShut'",
      "'hut:gate', 'onShut'",
      /'"hut:gate"' is not assignable/,
    ],
    [
      'carries a field of the wrong type',
      "{ line: 'east', text",
      "{ line: 'north', text",
      /'"north"' is not assignable/,
    ],
    ['leaves out a field', "{ line: 'east', text: 'hut.open' }", '{}', /Property 'line' is missing/],
    ['carries a key that its table lacks', "'hut.open'", "'hut.gone'", /'"hut.gone"' is not assignable/],
    ['publishes to no channel', "'fog'", "'mist'", /'"mist"' is not assignable/],
    ['names no peer', "by: 'host'", "by: 'guest'", /'"guest"' is not assignable/],
    [
      'leaves a wired action without code',
      "Lamp: { light(address, args) { console.log(address, args.line === 'east'); } }",
      'Lamp: {}',
      /Property 'light' is missing/,
    ],
    [
      'gives code for an action that is not wired',
      'Lamp: { light',
      'Lamp: { unwired() {}, light',
      /'unwired' does not exist/,
    ],
  ])('do not let it compile when it %s', (_, from, to, message) => {
    expect(GAME).toContain(from);
    const errors = compile(GAME.replace(from, to));
    expect(errors.join('\n')).toMatch(message);
  });
});

describe('names for other languages', () => {
  it('are a valid JSON Schema, which takes right payloads and no wrong ones', async () => {
    const schema = JSON.parse(
      (await oquel('names', join(folder, 'hut.json'), '--to', 'json-schema')).out,
    ) as { $id: string };
    const ajv = new Ajv2020({ allErrors: true });
    ajv.addSchema(schema);
    const opened = ajv.compile({ $ref: `${schema.$id}#/$defs/Door.onOpened` });
    expect(opened({ line: 'east' })).toBe(true);
    expect(opened({ line: 'north' })).toBe(false);
    expect(opened({})).toBe(false);
    expect(opened({ line: 'west', text: 'hut.shut' })).toBe(true);
    expect(opened({ line: 'west', colour: 1 })).toBe(false);
  });
  it.each([DEMO, 'hut'])('are AsyncAPI 3, valid by its own schema: %s', async (file) => {
    const project = file === 'hut' ? join(folder, 'hut.json') : file;
    const document = JSON.parse((await oquel('names', project, '--to', 'asyncapi')).out) as {
      channels: object;
    };
    const path = createRequire(import.meta.url).resolve('@asyncapi/specs/schemas/3.0.0-without-$id.json');
    const schema = JSON.parse(readFileSync(path, 'utf8')) as object;
    const validate = new Ajv({ strict: false, logger: false, validateFormats: false }).compile(schema);
    expect(validate(document) || validate.errors).toBe(true);
    expect(Object.keys(document.channels).length).toBeGreaterThan(3);
    // It can fail.
    expect(validate({ ...document, asyncapi: 3 })).toBe(false);
  });
  it('are refused for a language that there is none of', async () => {
    const { code, err } = await oquel('names', join(folder, 'hut.json'), '--to', 'cobol');
    expect(code).toBe(2);
    expect(err).toContain('Allowed choices are typescript, json-schema, asyncapi');
  });
});
