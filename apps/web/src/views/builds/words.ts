import type { Build } from '../../api/client.js';

/** What counts of a build: the last that somebody said of it, else the gate. */
export function standing({ gate, verdicts }: Build): { text: string; tone: 'good' | 'bad' } {
  const last = verdicts.at(-1);
  if (last?.verdict === 'through') {
    return { text: `approved by ${last.who}${gate === 'stop' ? ' against the gate' : ''}`, tone: 'good' };
  }
  if (last) return { text: `rejected by ${last.who}`, tone: 'bad' };
  return gate === 'pass'
    ? { text: 'the gate passes it', tone: 'good' }
    : { text: 'the gate stops it', tone: 'bad' };
}
