import { createRequire } from 'node:module';
import { describe, expect, it } from '@jest/globals';
import Ajv04 from 'ajv-draft-04';
import { parse } from 'csv-parse/sync';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import {
  againstBaseline,
  ALL_RULES,
  audit,
  auditCsv,
  auditJunit,
  auditSarif,
  buildGraph,
  expand,
  graphCsv,
  graphMl,
  indexProject,
  locate,
  stopsGate,
  type Finding,
  type Project,
} from '../src/index.js';
import { randomProject } from './random-project.js';
import { demo, TODAY, caseProjects } from './export-projects.js';

/** The horn that mast-2 sounds and that is not there. */
const isHorn = ({ subject: s }: Finding): boolean => 'binding' in s && s.binding === 'gust-2c';
const waivedDemo = (): Project => {
  const { fingerprint } = audit(demo, { today: TODAY }).findings.find(isHorn)!;
  return {
    ...demo,
    name: 'Storm <&> "Veyra" \u0001',
    waivers: [{ fingerprint, reason: 'a & b', by: 'ines' }],
  };
};

describe('SARIF', () => {
  const schema = createRequire(import.meta.url)(
    '@microsoft/jest-sarif/lib/schemas/sarif-2.1.0-rtm.5.json',
  ) as object;
  const validate = new Ajv04.default({ strict: false, validateFormats: false, unicodeRegExp: false }).compile(
    schema,
  );

  it('is valid by the official schema, for every case, the demo, waivers and a baseline', () => {
    for (const project of [...caseProjects, demo, waivedDemo()]) {
      const result = audit(project, { today: TODAY });
      const old = { ...result, findings: result.findings.slice(2) };
      const { since } = againstBaseline(result, old, 'error');
      const index = indexProject(project);
      const places = locate(index, result.findings, { document: JSON.stringify(project, null, 2) });
      const artifact = 'veyra.json';
      for (const options of [
        { artifact },
        { artifact, since },
        { artifact, index, places, version: '0.1.0', guide: 'https://oquel.example/guide' },
      ]) {
        expect(validate(auditSarif(result, options)) ? [] : validate.errors).toEqual([]);
      }
    }
  });

  it('shows a chain as a flow, and by which waiver a finding is accepted', () => {
    const project = waivedDemo();
    const { findings } = audit(project, { today: TODAY });
    const index = indexProject(project);
    const places = locate(index, findings, { document: JSON.stringify(project, null, 2) });
    const sarif = auditSarif(audit(project, { today: TODAY }), { artifact: 'v.json', index, places }) as {
      runs: { results: Record<string, unknown>[] }[];
    };
    const [{ results }] = sarif.runs;
    const chain = findings.findIndex((f) => f.evidence.kind === 'path');
    const { steps } = findings[chain].evidence as { steps: unknown[] };
    const [{ threadFlows }] = results[chain].codeFlows as { threadFlows: { locations: unknown[] }[] }[];
    expect(threadFlows[0].locations).toHaveLength(steps.length);
    expect(threadFlows[0].locations[1]).toMatchObject({
      location: { physicalLocation: { artifactLocation: { uri: 'v.json' }, region: {} } },
    });
    const waived = findings.findIndex((f) => f.waived);
    const { reason, by } = project.waivers!.find((w) => w.fingerprint === findings[waived].fingerprint)!;
    expect(results[waived].suppressions).toMatchObject([
      { status: 'accepted', justification: expect.stringContaining(`${reason} (${by}`) },
    ]);
  });

  it('leads from each rule to its page of the guide, where there is one', () => {
    const rulesOf = (guide?: string): { id: string; helpUri?: string }[] => {
      const sarif = auditSarif(audit(demo, { today: TODAY }), { artifact: 'v.json', guide }) as {
        runs: { tool: { driver: { rules: { id: string; helpUri?: string }[] } } }[];
      };
      return sarif.runs[0].tool.driver.rules;
    };
    expect(rulesOf().some((r) => 'helpUri' in r)).toBe(false);
    for (const { id, helpUri } of rulesOf('https://oquel.example/guide'))
      expect(helpUri).toBe(`https://oquel.example/guide/rules/${id}.html`);
  });

  it('says where the game declares what a finding speaks of', () => {
    const source = { file: 'src/a mast.ts', line: 12 };
    const assets = demo.assets.map((a) => ({
      ...a,
      source,
      events: a.events?.map((e) => ({ ...e, source: { file: 'src/events.ts' } })),
    }));
    const marked = { ...demo, assets };
    const result = audit(marked, { today: TODAY });
    const sarif = auditSarif(result, { artifact: 'v.json', index: indexProject(marked) });
    expect(validate(sarif) ? [] : validate.errors).toEqual([]);
    const { results } = (sarif as { runs: { results: { ruleId: string; relatedLocations?: unknown }[] }[] })
      .runs[0];
    const of = (rule: string): unknown => results.find((r) => r.ruleId.startsWith(rule))!.relatedLocations;
    expect(of('unheard-event')).toMatchObject([
      { physicalLocation: { artifactLocation: { uri: 'src/events.ts' } } },
    ]);
    expect(of('dangling-effect')).toMatchObject([
      { physicalLocation: { artifactLocation: { uri: 'src/a%20mast.ts' }, region: { startLine: 12 } } },
    ]);
    // A binding is Oquel's own.
    expect(of('dangling-target')).toBeUndefined();
  });

  it('says for each result its rule, its places, its fingerprint, its waiver and whether it is new', () => {
    const before = audit(demo, { today: TODAY });
    const after = audit(waivedDemo(), { today: TODAY });
    const lost = {
      ...before,
      findings: before.findings.map((f) => (isHorn(f) ? { ...f, fingerprint: 'gone' } : f)),
    };
    const { since } = againstBaseline(after, lost, 'error');
    const sarif = auditSarif(after, { artifact: 'v.json', since }) as {
      runs: { results: Record<string, unknown>[]; tool: { driver: { rules: { id: string }[] } } }[];
    };
    const [{ results, tool }] = sarif.runs;
    const at = after.findings.findIndex(isHorn);
    const first = results[at];
    expect(first).toMatchObject({
      ruleId: 'dangling-target/placement',
      level: 'error',
      partialFingerprints: { 'oquel/v1': after.findings[at].fingerprint },
      suppressions: [{ kind: 'external', status: 'accepted' }],
      baselineState: 'new',
      locations: [{ logicalLocations: [{ fullyQualifiedName: 'pylon-ridge:.' }] }],
    });
    expect(tool.driver.rules[first.ruleIndex as number].id).toBe('dangling-target');
    expect(results[at + 1]).toMatchObject({ baselineState: 'unchanged' });
    expect(results.at(-1)).toMatchObject({ baselineState: 'absent' });
  });
});

describe('JUnit, CSV and GraphML', () => {
  it('JUnit has a case for each finding at its line, and one for each rule that found nothing', () => {
    const project = waivedDemo();
    const result = audit(project, { today: TODAY });
    const text = JSON.stringify(project, null, 2);
    const places = locate(indexProject(project), result.findings, { document: text });
    const xml = auditJunit(result, {
      stops: stopsGate('error'),
      artifact: 'v.json',
      places,
      waivers: project.waivers ?? [],
      seconds: 0.25,
    });
    expect(XMLValidator.validate(xml)).toBe(true);
    expect(xml).not.toContain('\u0001');
    interface Case {
      '@_classname': string;
      '@_name': string;
      '@_file'?: string;
      '@_line'?: string;
      failure?: object;
      skipped?: object;
      'system-out'?: string;
    }
    const parsed = new XMLParser({ ignoreAttributes: false }).parse(xml) as {
      testsuites: { testsuite: Record<`@_${string}`, string> & { testcase: Case[] } };
    };
    const { testcase: cases, ...suite } = parsed.testsuites.testsuite;
    // What the common schema of JUnit reports knows, and no more; what it demands is there.
    const KNOWN = ['name', 'classname', 'time', 'file', 'line'];
    for (const c of cases) {
      const attributes = Object.keys(c).filter((k) => k.startsWith('@_'));
      expect(attributes.filter((k) => !KNOWN.includes(k.slice(2)))).toEqual([]);
      expect(attributes).toEqual(expect.arrayContaining(['@_name', '@_classname', '@_time']));
      const within = Object.keys(c).filter((k) => !k.startsWith('@_'));
      expect(within.filter((k) => !['failure', 'skipped', 'system-out'].includes(k))).toEqual([]);
      expect(within.length).toBeLessThanOrEqual(1);
    }
    const of = (f: Finding): Case => cases.find((c) => c['@_name'].includes(`[${f.fingerprint}]`))!;
    const clean = ALL_RULES.filter(({ meta }) => !result.findings.some((f) => f.rule === meta.name));
    expect(cases.length).toBe(result.findings.length + clean.length);
    expect(new Set(cases.map((c) => `${c['@_classname']} ${c['@_name']}`)).size).toBe(cases.length);
    for (const f of result.findings) {
      const own = of(f);
      expect(own['@_classname']).toBe(`oquel.${f.rule}`);
      expect(own['@_file']).toBe('v.json');
      expect(Number(own['@_line'])).toBe(places.of(f.subject)!.region.line);
      const stopped = f.severity === 'error' && !f.waived;
      expect([own.failure !== undefined, own.skipped !== undefined]).toEqual([stopped, f.waived === true]);
      if (!stopped && !f.waived) expect(own['system-out']).toContain(f.severity);
    }
    const waived = result.findings.filter((f) => f.waived);
    expect(of(waived.find(isHorn)!).skipped).toEqual({
      '@_message': expect.stringMatching(/^waived by .+: .+/),
    });
    expect(suite).toEqual({
      '@_name': expect.stringContaining('Storm <&> "Veyra"'),
      '@_tests': String(cases.length),
      '@_failures': String(cases.filter((c) => c.failure !== undefined).length),
      '@_errors': '0',
      '@_skipped': String(waived.length),
      '@_time': '0.25',
    });
  });

  it('CSV reads back as what was found', () => {
    const result = audit(demo, { today: TODAY });
    const rows: Record<string, string>[] = parse(auditCsv(result), { columns: true });
    expect(rows).toHaveLength(result.findings.length);
    rows.forEach((row, i) => {
      const f = result.findings[i];
      expect(JSON.parse(row.subject)).toEqual(f.subject);
      expect(row).toMatchObject({
        rule: f.rule,
        class: f.class ?? '',
        message: f.message,
        severity: f.severity,
      });
    });
    expect(auditCsv(result).split('\r\n').length).toBeGreaterThan(result.findings.length);
  });

  it('the graph as GraphML and as CSV has every node and edge', () => {
    for (const project of [demo, ...Array.from({ length: 30 }, (_, i) => randomProject(i))]) {
      const g = buildGraph(expand(indexProject(project)));
      const xml = graphMl(g);
      expect(XMLValidator.validate(xml)).toBe(true);
      expect(xml.match(/<node /g) ?? []).toHaveLength(g.nodes);
      expect(xml.match(/<edge /g) ?? []).toHaveLength(g.head.length);
      expect(graphMlFaults(xml)).toEqual([]);
      expect(parse(graphCsv(g), { columns: true })).toHaveLength(g.head.length);
    }
  });
});

/**
 * What of GraphML's schema (graphml.xsd 1.0) a document breaks: keys first, each once and of a known type; data of a key that is
 * declared for where they stand, once in a node or edge; edges between nodes that are there; ids once.
 */
function graphMlFaults(xml: string): string[] {
  const list = (name: string): boolean => ['key', 'node', 'edge', 'data'].includes(name);
  const parser = new XMLParser({ ignoreAttributes: false, isArray: list, parseTagValue: false });
  type Data = { '@_key': string; '#text': string }[];
  interface Item {
    '@_id': string;
    '@_source'?: string;
    '@_target'?: string;
    data?: Data;
  }
  const { graphml } = parser.parse(xml) as {
    graphml: {
      key: { '@_id': string; '@_for': string; '@_attr.type': string }[];
      graph: { '@_edgedefault': string; node?: Item[]; edge?: Item[] };
    };
  };
  const faults: string[] = [];
  const { key, graph } = graphml;
  if (xml.lastIndexOf('<key ') > xml.indexOf('<graph ')) faults.push('a key behind the graph');
  if (!['directed', 'undirected'].includes(graph['@_edgedefault'])) faults.push('edgedefault');
  for (const k of key)
    if (!['string', 'double'].includes(k['@_attr.type'])) faults.push(`type of ${k['@_id']}`);
  const { node = [], edge = [] } = graph;
  const ids = [...key, ...node, ...edge].map((i) => i['@_id']);
  if (new Set(ids).size < ids.length) faults.push('an id twice');
  const nodes = new Set(node.map((n) => n['@_id']));
  const check = (items: Item[], of: string): void => {
    const known = new Map(key.filter((k) => k['@_for'] === of).map((k) => [k['@_id'], k['@_attr.type']]));
    for (const { '@_id': id, data = [] } of items) {
      if (new Set(data.map((d) => d['@_key'])).size < data.length) faults.push(`${id}: data twice`);
      for (const d of data) {
        const type = known.get(d['@_key']);
        if (type === undefined) faults.push(`${id}: ${d['@_key']} is not declared`);
        else if (type === 'double' && !(Number(d['#text']) >= 0)) faults.push(`${id}: ${d['#text']}`);
      }
    }
  };
  check(node, 'node');
  check(edge, 'edge');
  for (const e of edge)
    for (const end of [e['@_source'], e['@_target']])
      if (!nodes.has(String(end))) faults.push(`${e['@_id']} ends at ${end}`);
  return faults;
}
