import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from '@jest/globals';
import { expand, indexProject, readProjectText, rehearse, traceText } from '../src/index.js';

const FOLDER = fileURLToPath(new URL('./rehearsals/', import.meta.url));
const names = readdirSync(FOLDER).filter((f) => f.endsWith('.json'));

function trace(text: string): string {
  const { project } = readProjectText(text);
  const lines: string[] = [];
  rehearse(expand(indexProject(project)), project.rehearsals ?? [], (line) => lines.push(traceText(line)));
  return lines.join('');
}

describe('the trace of a rehearsal', () => {
  it.each(names)('%s is as it is written down, byte for byte', (name) => {
    const text = readFileSync(`${FOLDER}${name}`, 'utf8');
    const expected = readFileSync(`${FOLDER}${name.replace('.json', '.jsonl')}`, 'utf8');
    expect(trace(text).split('\n')).toEqual(expected.split('\n'));
  });
  it.each(names)('%s is the same when it is run twice', (name) => {
    const text = readFileSync(`${FOLDER}${name}`, 'utf8');
    expect(trace(text)).toBe(trace(text));
  });
});
