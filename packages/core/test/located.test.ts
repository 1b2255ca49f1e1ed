import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import {
  audit,
  indexProject,
  locate,
  toFolder,
  type Finding,
  type Project,
  type ProjectTexts,
  type Region,
  type Subject,
} from '../src/index.js';
import { randomProject } from './random-project.js';
import { seeds } from './random.js';

const TODAY = '2026-11-24';
const DEMO = new URL('../../../demo/storm-over-veyra.json', import.meta.url);
const demo = JSON.parse(readFileSync(DEMO, 'utf8')) as Project;

function textAt(text: string, { line, column, endLine, endColumn }: Region): string {
  const lines = text.split('\n').slice(line - 1, endLine);
  lines[lines.length - 1] = lines[lines.length - 1].slice(0, endColumn - 1);
  lines[0] = lines[0].slice(column - 1);
  return lines.join('\n');
}
/** The texts of a project in both forms. */
function forms(project: Project): { texts: ProjectTexts; textOf: (file: string) => string }[] {
  const document = JSON.stringify(project, null, 2);
  const files = toFolder(project);
  const { assets } = JSON.parse(files.get('project.json')!) as { assets: string[] };
  return [
    { texts: { document }, textOf: () => document },
    { texts: { assets, file: (path) => files.get(path) ?? null }, textOf: (file) => files.get(file)! },
  ];
}
interface Item {
  id?: string;
  name?: string;
  fingerprint?: string;
}
/** Whether a value is what a subject speaks of, or what that lies in. */
function isOf(value: unknown, s: Subject): boolean {
  const { id, name, fingerprint } = (value ?? {}) as Item;
  if ('bindings' in s && s.bindings.length > 0) return id === s.bindings[0].binding;
  if ('effects' in s) return isOf(value, s.effects[0]);
  if ('assets' in s) return id === s.assets[0];
  if ('channel' in s) return name === s.channel;
  if ('waiver' in s) return fingerprint === s.waiver;
  if ('loadSet' in s) return name === s.loadSet;
  if (!('asset' in s)) return true;
  if (id === s.asset) return !('binding' in s) && !('event' in s);
  if ('param' in s && 'binding' in s) return id === s.binding || id === undefined;
  if ('binding' in s) return id === s.binding;
  if ('placement' in s && s.placement !== undefined) return 'property' in s ? true : id === s.placement;
  if ('effect' in s) return name === s.action || name === undefined;
  if ('event' in s) return name === s.event;
  return 'action' in s ? name === s.action : 'property' in s && name === s.property;
}

describe('where findings are written', () => {
  const projects = [demo, ...Array.from({ length: seeds(60) }, (_, seed) => randomProject(seed))];
  it('the text there is of what they speak of, in a document and in a folder', () => {
    const misplaced: unknown[] = [];
    let [placed, exact] = [0, 0];
    for (const project of projects) {
      const { findings } = audit(project, { today: TODAY });
      for (const { texts, textOf } of forms(project)) {
        const places = locate(indexProject(project), findings, texts);
        for (const { subject } of findings) {
          const at = places.of(subject);
          const value = at && (JSON.parse(textAt(textOf(at.file), at.region)) as unknown);
          if (!at || !isOf(value, subject)) misplaced.push({ subject, at });
          placed++;
          if (at && at.region.line > 1) exact++;
        }
      }
    }
    expect(misplaced).toEqual([]);
    expect(exact).toBeGreaterThan(placed * 0.9);
  });

  it('each binding on a way is where it is written', () => {
    const { findings } = audit(demo, { today: TODAY });
    const chains = findings.filter((f): f is Finding => f.evidence.kind === 'path');
    expect(chains.length).toBeGreaterThan(0);
    for (const { texts, textOf } of forms(demo)) {
      const places = locate(indexProject(demo), chains, texts);
      for (const { evidence } of chains) {
        for (const { via } of evidence.kind === 'path' ? evidence.steps : []) {
          if (!via?.binding) continue;
          const at = places.ofBinding(via.binding)!;
          expect(JSON.parse(textAt(textOf(at.file), at.region))).toMatchObject({ id: via.binding.binding });
        }
      }
    }
  });
});
