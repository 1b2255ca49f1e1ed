import { secondsText } from '../rehearse/words.js';
import type { PlayReport, SeenAt, Tally, WhatIsMissing } from './play-report.js';

/** So many of each kind are reported in words; the report has them all. */
const MOST = 20;

/** What plays say, in sentences, the gravest first. */
export function playText(r: PlayReport): string {
  const lines = [
    `${count(r.records, 'record')} of ${count(r.sessions, 'session')}, ${r.seconds} s of play in all.`,
    `${r.coverage.served} of ${r.coverage.of} bindings have served.`,
  ];
  const reported = <T extends Tally>(title: string, list: readonly T[], say: (of: T) => string): void => {
    if (list.length === 0) return;
    lines.push('', `${title}:`);
    for (const of of list.slice(0, MOST)) lines.push(`  ${say(of)} (${often(of)})`);
    if (list.length > MOST) lines.push(`  and ${list.length - MOST} more`);
  };
  for (const { wiring, sessions } of r.others) {
    lines.push(
      `${count(sessions, 'session')} ran other wiring (${wiring.slice(0, 12)}): what is said of it may be wrong.`,
    );
  }
  if (r.broken.count > 0) {
    lines.push('', `${count(r.broken.count, 'line')} could not be read:`);
    for (const { source, line, why } of r.broken.lines.slice(0, MOST))
      lines.push(`  ${source}:${line} ${why}`);
  }
  reported('Should have followed, and did not', r.missing, (m) => missingText(m));
  reported('Done twice', r.doubled, (d) => `binding ${d.binding} of ${d.owner}: ${d.at} ${d.action}`.trim());
  reported(
    'In another order',
    r.order,
    ({ late, early }) =>
      `binding ${late.binding} of ${late.owner} came after binding ${early.binding} of ${early.owner}`,
  );
  reported('Happened though the wiring does not let it', r.despite, (d) => `${d.at} ${d.name}: ${d.reason}`);
  reported(
    'Done by other code',
    r.unexplained,
    ({ at, action, after }) => `${at} ${action}${after ? `, after ${after.at} ${after.event}` : ''}`,
  );
  reported('Not known to the project', r.unknown, ({ what, name }) => `the ${what} ${name}`);
  if (r.raised.length > 0) {
    lines.push('', 'Raised most:');
    for (const { at, event, count: n } of r.raised.slice(0, 5))
      lines.push(`  ${at} ${event}: ${perMinute(n, r)}`);
  }
  if (r.left > 0) lines.push('', `${r.left} more were left out.`);
  return `${lines.join('\n')}\n`;
}

/** `gate-1 does not do open, by binding opens of quay:.` */
export function missingText(m: WhatIsMissing): string {
  if ('action' in m) return `binding ${m.binding} of ${m.owner} does not reach ${m.at} ${m.action}`;
  if ('channel' in m) return `binding ${m.binding} of ${m.owner} does not publish to ${m.channel}`;
  return `${m.at} does not raise ${m.event}`;
}
function perMinute(n: number, { seconds }: PlayReport): string {
  if (seconds === 0) return `${n} times`;
  return `${n} times, ${((n * 60) / seconds).toFixed(1)} a minute`;
}
function often({ count: n, sessions, first }: Tally): string {
  const times = n === 1 ? 'once' : `${n} times`;
  return `${times}${sessions > 1 ? ` in ${sessions} sessions` : ''}, first at ${where(first)}`;
}
function where({ source, line, t }: SeenAt): string {
  return `${source}:${line}, ${secondsText(t)}`;
}
function count(n: number, what: string): string {
  return `${n} ${what}${n === 1 ? '' : 's'}`;
}
