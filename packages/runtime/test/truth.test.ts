import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from '@jest/globals';
import {
  expand,
  indexProject,
  readProjectText,
  rehearse as rehearseInCore,
  traceText,
  type Project,
  type Rehearsal,
} from '@oquel/core';
import { projectOf } from '../../core/test/naive-rehearsal/project-of.js';
import { randomScript } from '../../core/test/naive-rehearsal/script.js';
import { Random, seeds } from '../../core/test/random.js';
import { canonicalJson } from '../src/index.js';
import { rehearse } from '../src/rehearsals.js';
import { compiled } from './compiled.js';

function byRuntime(project: Project, rehearsals: readonly Rehearsal[]): string[] {
  const { wiring, scenes } = compiled(project);
  const lines: string[] = [];
  for (const rehearsal of rehearsals)
    rehearse(wiring, scenes, rehearsal, (l) => lines.push(canonicalJson(l)));
  return lines;
}
function byCore(project: Project, rehearsals: readonly Rehearsal[]): string[] {
  const lines: string[] = [];
  rehearseInCore(expand(indexProject(project)), rehearsals, (l) => {
    if (l.kind !== 'coverage') lines.push(traceText(l).trimEnd());
  });
  return lines;
}

/** Scripts on random projects: sleep, spawning, destroying, pauses, peers, bindings in code, runaways. */
const BATCHES = Array.from({ length: seeds(20) }, (_, i) => i);
const FOLDER = fileURLToPath(new URL('../../core/test/rehearsals/', import.meta.url));
const cases = readdirSync(FOLDER).filter((f) => f.endsWith('.json'));

describe('the runtime over compiled wiring', () => {
  it.each(cases)('%s: writes the trace of the core, byte for byte', (name) => {
    const { project } = readProjectText(readFileSync(`${FOLDER}${name}`, 'utf8'));
    const rehearsals = project.rehearsals ?? [];
    expect(byRuntime(project, rehearsals)).toEqual(byCore(project, rehearsals));
  });
  it.each(BATCHES)('writes the same trace for random projects, batch %i', (batch) => {
    let compared = 0;
    for (let seed = batch * 100; seed < batch * 100 + 100; seed++) {
      const project = projectOf(seed);
      if (expand(indexProject(project)).count > 400) continue;
      const rehearsal = randomScript(new Random(seed + 7_000_000), project);
      const ours = byRuntime(project, [rehearsal]);
      expect({ seed, lines: ours }).toEqual({ seed, lines: byCore(project, [rehearsal]) });
      compared++;
    }
    expect(compared).toBeGreaterThan(60);
  });
});
