import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import { projectJsonSchema } from '@oquel/core';
import openapiTS, { astToString, type OpenAPI3 } from 'openapi-typescript';
import { DEMO, newDatabase, TestServer } from './harness.js';
import { smallProject } from './small-project.js';

interface Operation {
  operationId: string;
  summary?: string;
  requestBody?: { content: Record<string, { schema: object }> };
  responses: Record<string, { content?: Record<string, { schema: object }> }>;
}
interface Api {
  openapi: string;
  paths: Record<string, Record<string, Operation>>;
  components: { schemas: Record<string, object> };
}

let server: TestServer;
let api: Api;
let operations: [name: string, operation: Operation][];
beforeAll(async () => {
  server = await TestServer.start(await newDatabase());
  api = (await server.get('/api/openapi.json')).body as Api;
  operations = Object.entries(api.paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, o]): [string, Operation] => [`${method.toUpperCase()} ${path}`, o]),
  );
});
afterAll(() => server.stop());

/** A check by a schema of the description; in a strict one nothing that is not named may be there. */
function validator(schema: object, isStrict = true): ValidateFunction {
  let ajv = isStrict ? strict : lax;
  if (!ajv) {
    ajv = new Ajv2020({ strict: false, allErrors: true, validateFormats: false });
    ajv.addSchema({ $id: 'api', components: { schemas: mapped(isStrict) } });
    if (isStrict) strict = ajv;
    else lax = ajv;
  }
  const own = JSON.stringify(isStrict ? closed(schema) : schema).replaceAll(
    '"#/components',
    '"api#/components',
  );
  return ajv.compile(JSON.parse(own) as object);
}
let strict: Ajv2020 | null = null;
let lax: Ajv2020 | null = null;
function mapped(isStrict: boolean): object {
  const formatsOfTheCore = ['Project', 'Declarations', 'Change', 'Problem'];
  return Object.fromEntries(
    Object.entries(api.components.schemas).map(([name, schema]) => [
      name,
      isStrict && !name.startsWith('Format') && !formatsOfTheCore.includes(name) ? closed(schema) : schema,
    ]),
  );
}
function closed(schema: object): object {
  const { type, properties, additionalProperties } = schema as Record<string, unknown>;
  const rest = Object.fromEntries(
    Object.entries(schema).map(([key, value]) => [
      key,
      Array.isArray(value)
        ? value.map((v: unknown) => (typeof v === 'object' && v !== null ? closed(v) : v))
        : typeof value === 'object' && value !== null
          ? closed(value as object)
          : (value as unknown),
    ]),
  );
  const isClosed = type === 'object' && properties !== undefined && additionalProperties === undefined;
  return isClosed ? { ...rest, additionalProperties: false } : rest;
}

describe('the description of the API', () => {
  it('is OpenAPI 3.1 whose schemas are JSON Schema 2020-12, each name of which leads somewhere', () => {
    expect(api.openapi).toBe('3.1.0');
    for (const name of Object.keys(api.components.schemas))
      expect(validator({ $ref: `#/components/schemas/${name}` }, false)).toBeInstanceOf(Function);
    expect(JSON.stringify(api)).not.toContain('"nullable"');
  });
  it('has a name and a sentence for each operation, and every problem that may come', () => {
    expect(new Set(operations.map(([, o]) => o.operationId)).size).toBe(operations.length);
    for (const [name, { summary, responses }] of operations) {
      expect([name, summary]).toEqual([name, expect.stringMatching(/\S/)]);
      for (const status of ['403', '421', '429', '500', '503'])
        expect([name, responses[status]?.content?.['application/problem+json']]).toEqual([
          name,
          expect.anything(),
        ]);
      const good = Object.keys(responses).filter((s) => s.startsWith('2') || s.startsWith('3'));
      expect([name, good.length]).toEqual([name, expect.any(Number)]);
      expect(good.length).toBeGreaterThan(0);
    }
  });
  it('has the format of documents: one that is taken is valid, one that is refused is not', () => {
    const isProject = validator({ $ref: '#/components/schemas/Project' });
    expect(isProject(smallProject())).toBe(true);
    expect(isProject({ ...smallProject(), assets: [{ id: 5 }] })).toBe(false);
    // Written for clients, it is still the core's: valid are the same documents.
    const own = new Ajv2020({ strict: false, validateFormats: false }).compile(projectJsonSchema() as object);
    const demo = JSON.parse(readFileSync(DEMO, 'utf8')) as { assets: { bindings?: object[] }[] };
    expect([isProject(demo), own(demo)]).toEqual([true, true]);
    const [first] = demo.assets;
    for (const wrong of [{ limit: 0 }, { to: {} }, { from: { at: 5 } }, { args: 3 }, { do: 'x' }]) {
      const broken = { ...demo, assets: [{ ...first, bindings: [{ ...first.bindings![0], ...wrong }] }] };
      expect([wrong, isProject(broken)]).toEqual([wrong, own(broken)]);
    }
  });
  it('names what comes over the stream of events', async () => {
    const id = await server.import(smallProject());
    const stream = await fetch(
      `${server.url}/api/live?stream=7f0f4a53-6a0e-4f0e-9c54-0c9f3a8f1c11&projects=${id},${'0'.repeat(8)}-0000-4000-8000-000000000000`,
    );
    const reader = stream.body!.getReader();
    let text = '';
    while (!text.includes('event: presence') || !text.includes('event: gone'))
      text += new TextDecoder().decode((await reader.read()).value);
    await reader.cancel();
    const isEvent = validator({ $ref: '#/components/schemas/Event' });
    const events = [...text.matchAll(/^event: (.*)\n(?:id: .*\n)?data: (.*)$/gm)];
    expect(events.length).toBeGreaterThanOrEqual(3);
    for (const [, event, data] of events)
      expect([event, isEvent({ event, data: JSON.parse(data) as unknown }), isEvent.errors]).toEqual([
        event,
        true,
        null,
      ]);
  });
});

describe('what is answered', () => {
  it('is what the description says, to the last field', async () => {
    const id = await server.import(smallProject());
    const at = `/api/projects/${id}`;
    const own = { who: 'mira', author: '6b1f0f4e-2a43-4a55-9d7c-1f6f8d5c7b10' };
    const note = (value: string): object[] => [{ op: 'set', asset: 'WindMast', part: 'note', value }];
    const ask = async (method: string, template: string, path: string, body?: unknown): Promise<unknown> => {
      const answer = await server.call(method, path, body);
      const type = answer.type.split(';')[0];
      const schema =
        api.paths[template][method.toLowerCase()].responses[answer.status]?.content?.[type]?.schema;
      if (!schema)
        throw new Error(`${method} ${template} answers ${answer.status} ${type}, which is not described`);
      const isRight = validator(schema);
      isRight(answer.body);
      expect([method, template, answer.status, isRight.errors]).toEqual([
        method,
        template,
        answer.status,
        null,
      ]);
      return answer.body;
    };
    const P = '/api/projects/{id}';
    await ask('POST', `${P}/edits`, `${at}/edits`, {
      base: 1,
      label: 'a note',
      ...own,
      changes: note('one'),
    });
    await ask('POST', `${P}/undo`, `${at}/undo`, { base: 2, ...own });
    await ask('POST', `${P}/redo`, `${at}/redo`, { base: 3, ...own });
    await ask('GET', `${P}/edits`, `${at}/edits?after=0`);
    await ask('GET', '/api/projects', '/api/projects');
    await ask('GET', P, at);
    await ask('GET', `${P}/document`, `${at}/document`);
    await ask('GET', `${P}/audit`, `${at}/audit`);
    await ask('GET', `${P}/gate`, `${at}/gate`);
    const build = (await ask('POST', `${P}/builds`, `${at}/builds`, {
      base: 4,
      name: 'one',
      who: 'mira',
    })) as { id: string };
    await ask('POST', `${P}/builds/{build}/verdicts`, `${at}/builds/${build.id}/verdicts`, {
      verdict: 'through',
      reason: 'good',
      who: 'mira',
    });
    await ask('GET', `${P}/builds`, `${at}/builds`);
    await ask('GET', `${P}/plays`, `${at}/plays`);
    await ask('GET', '/api/session', '/api/session');
    await ask('GET', '/api/retention', '/api/retention?history=30');
    await ask('POST', '/api/retention', '/api/retention', { history: 30 });
    // And problems of several kinds.
    await ask('POST', `${P}/edits`, `${at}/edits`, {
      base: 1,
      label: 'x',
      ...own,
      changes: [{ op: 'set', asset: 'No', part: 'note' }],
    });
    await ask('POST', `${P}/edits`, `${at}/edits`, {
      base: 1,
      label: 'a note',
      who: 'jon',
      changes: note('two'),
    });
    await ask('POST', `${P}/edits`, `${at}/edits`, { label: 5 });
    await ask('GET', P, '/api/projects/00000000-0000-4000-8000-000000000000');
    await ask('POST', '/api/projects', '/api/projects', { format: 'oquel.project/1' });
  });
});

describe('the page on HTTP', () => {
  const page = readFileSync(new URL('../../../docs/http.md', import.meta.url), 'utf8');
  const HERE = 'http://127.0.0.1:4780';
  const shown = [...page.matchAll(/^ {4}curl (?:-N )?(?:"([^"]+)"|(\S+))/gm)]
    .map(([, quoted, plain]) => quoted ?? plain)
    .filter((address) => address.startsWith(HERE))
    .map((address) => address.slice(HERE.length));
  it('shows requests', () => {
    expect(shown.length).toBeGreaterThan(4);
  });
  it.each(shown)('asks for %s, and is answered', async (path) => {
    const id = await server.import(smallProject());
    const asked = path.replaceAll('<a UUID>', crypto.randomUUID()).replaceAll('ID', id);
    const stop = new AbortController();
    const { status } = await fetch(server.url + asked, { signal: stop.signal });
    stop.abort();
    expect(status).toBe(200);
  });
});

describe('a client that is generated from the description', () => {
  it('compiles, and opens, edits and audits a project', async () => {
    const root = fileURLToPath(new URL('../../../', import.meta.url));
    // Within the checkout, so that packages are found; what is built is left out of every check there.
    mkdirSync(join(root, 'node_modules/.cache'), { recursive: true });
    const folder = mkdtempSync(join(root, 'node_modules/.cache/oquel-client-'));
    try {
      symlinkSync(join(root, 'apps/web/node_modules'), join(folder, 'node_modules'), 'dir');
    } catch {
      // Packages of a workspace may all lie at the root.
    }
    const types = astToString(await openapiTS(api as unknown as OpenAPI3));
    writeFileSync(join(folder, 'schema.d.ts'), types);
    writeFileSync(join(folder, 'client.mts'), CLIENT);
    try {
      const tsc = join(root, 'node_modules/typescript/bin/tsc');
      const flags = [
        '--ignoreConfig',
        '--types',
        'node',
        '--strict',
        '--skipLibCheck',
        '--target',
        'es2022',
        '--module',
        'nodenext',
      ];
      const { stdout } = spawnSync(process.execPath, [tsc, ...flags, join(folder, 'client.mts')], {
        encoding: 'utf8',
        cwd: folder,
      });
      expect(stdout).toBe('');
      const said = execFileSync(process.execPath, [join(folder, 'client.mjs'), server.url], {
        encoding: 'utf8',
        env: { ...process.env, NODE_OPTIONS: '' },
      });
      expect(JSON.parse(said)).toEqual({
        opened: 'Corner of Veyra',
        version: 2,
        gate: 'stop',
        rules: expect.arrayContaining(['dangling-target']),
        refused: 'urn:oquel:problem:edit-no-item',
      });
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  });
});

/** A program of somebody who has nothing but the description; its types are checked, too. */
const CLIENT = `
import createClient from 'openapi-fetch';
import type { components, paths } from './schema.js';

type Project = components['schemas']['Project'];
type Change = components['schemas']['Change'];
const api = createClient<paths>({ baseUrl: process.argv[2] });
const project: Project = ${JSON.stringify(smallProject())};
const made = await api.POST('/api/projects', { body: project });
const id = made.data!.id;
const opened = await api.GET('/api/projects/{id}', { params: { path: { id }, query: {} } });
const document: Project = opened.data!.document;
const change: Change = {
  op: 'insert',
  list: 'bindings',
  asset: 'pylon-ridge',
  index: 0,
  item: { id: 'lost', from: { at: 'mast-1', event: 'onGust' }, to: { at: 'brake-9', action: 'engage' } },
};
const head = { base: opened.data!.version, label: 'by a client', who: 'a client' };
const edited = await api.POST('/api/projects/{id}/edits', { params: { path: { id } }, body: { ...head, changes: [change] } });
const gate = await api.GET('/api/projects/{id}/gate', { params: { path: { id } } });
const audit = await api.GET('/api/projects/{id}/audit', { params: { path: { id }, query: {} } });
const remove: Change = { op: 'remove', list: 'bindings', asset: 'pylon-ridge', id: 'not-there' };
const refused = await api.POST('/api/projects/{id}/edits', { params: { path: { id } }, body: { ...head, base: 2, changes: [remove] } });
const { findings } = audit.data as unknown as { findings: { rule: string }[] };
process.stdout.write(JSON.stringify({
  opened: document.name,
  version: edited.data!.version,
  gate: (gate.data as { gate: string }).gate,
  rules: findings.map((f) => f.rule),
  refused: refused.error?.type,
}));
`;
