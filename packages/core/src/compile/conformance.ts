import { expand } from '../expand/expand.js';
import { canonicalJson } from '../project/canonical.js';
import { indexProject } from '../project/index-project.js';
import type { Project } from '../project/types.js';
import { rehearse, traceText } from '../rehearse/rehearse.js';
import { compileWiring } from './compile.js';
import { wiringFiles } from './write.js';

/**
 * The files of one case of the conformance kit, by path: compiled wiring, the project's rehearsals as steps, and the trace that they
 * must give. Cost: compiling, and the runs.
 */
export function conformanceCase(project: Project): Map<string, string> {
  const x = expand(indexProject(project));
  const rehearsals = project.rehearsals ?? [];
  const files = new Map<string, string>();
  for (const [path, text] of wiringFiles(compileWiring(x))) files.set(`wiring/${path}`, text);
  files.set('steps.json', `${canonicalJson(rehearsals)}\n`);
  const trace: string[] = [];
  rehearse(x, rehearsals, (line) => {
    // Coverage speaks of the project, not of a runtime.
    if (line.kind !== 'coverage') trace.push(traceText(line));
  });
  return files.set('trace.jsonl', trace.join(''));
}
